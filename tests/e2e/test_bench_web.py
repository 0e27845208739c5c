"""The web benchmark on the real application: people get through their pages, and the table says what was measured."""

import json
import socket

import pytest
from typer.testing import CliRunner

from bottega.cli import app
from bottega.web.load import WebBench, web_rows

pytestmark = pytest.mark.e2e


def test_the_made_up_people_work_without_an_error_and_are_measured():
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    command = ["bench", "web", "--json", "--people", "3", "--seconds", "4", "--port", str(port)]
    run = CliRunner().invoke(app, command)
    assert run.exit_code == 0
    bench = WebBench(**json.loads(run.stdout[run.stdout.index("{") :]))
    assert bench.errors == 0
    assert bench.people == 3
    assert bench.job_page_ms.requests > 60
    assert 0 < bench.job_page_ms.p50 <= bench.job_page_ms.p95 <= bench.job_page_ms.p99
    head, rows = web_rows(bench)
    assert "0 errors" in head
    assert rows[1][1] == f"{bench.job_page_ms.p95:.0f} ms"
    assert [target for _, _, target in rows if target] == ["< 60 ms", "< 250 ms"]


def test_an_application_that_does_not_come_up_is_said(monkeypatch):
    from bottega.web import load

    monkeypatch.setattr(load, "START_TRIES", 1)
    with pytest.raises(RuntimeError, match="did not come up on port 1"), load.running(["true"], 1):
        pass
