"""The web benchmark on the real application: people get through their pages, and the table says
what was measured."""

import json
import socket

import pytest
from typer.testing import CliRunner

from bottega.benchmark import served, web
from bottega.benchmark.web import Company, Spread, WebBench, people_at, web_rows
from bottega.cli import app

pytestmark = pytest.mark.e2e


def test_the_made_up_people_work_without_an_error_and_are_measured(monkeypatch):
    monkeypatch.setattr(web, "MANY_JOBS", 24)
    monkeypatch.setattr(web, "JOBS_ALONE", 1)
    monkeypatch.setattr(web, "STATIC_LOOKS", 40)
    monkeypatch.setattr(web, "MANY_LOOKS", 10)
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    command = ["bench", "web", "--json", "--people", "3", "--most", "4"]
    command += ["--seconds", "1", "--port", str(port)]
    run = CliRunner().invoke(app, command)
    assert run.exit_code == 0
    bench = WebBench(**json.loads(run.stdout[run.stdout.index("{") :]))
    assert bench.errors == 0
    assert bench.people == 3
    assert bench.job_page_ms.requests > 15
    assert 0 < bench.job_page_ms.p50 <= bench.job_page_ms.p95 <= bench.job_page_ms.p99
    head, rows = web_rows(bench)
    assert "0 errors" in head
    assert rows[1][1] == f"{bench.job_page_ms.p95:.0f} ms"
    targets = [target for _, _, target in rows if target]
    assert targets == ["< 60 ms", "< 250 ms", ">= 100", "< 30 ms", "< 80 ms", "< 60 ms"]
    assert rows[5][1] == f"{bench.people_at_250_ms:.0f}"


def test_an_application_that_does_not_come_up_is_said(monkeypatch):
    monkeypatch.setattr(served, "START_TRIES", 1)
    monkeypatch.setattr(served, "START_PAUSE_S", 0)
    with pytest.raises(RuntimeError, match=r"did not come up at http://127\.0\.0\.1:1"):
        served.wait_for("http://127.0.0.1:1")


def company(people: int, p95: float) -> Company:
    """Return a stage of the ramp with nothing to tell but its size and its p95."""
    spread = Spread(p50=p95 / 2, p95=p95, p99=p95 * 2, requests=100)
    return Company(people=people, wire_ms=spread, cpu_ms_per_request=10)


def test_the_people_who_push_the_page_over_are_read_between_two_stages():
    stages = [company(50, 100), company(75, 125), company(100, 500)]
    assert people_at(stages, 250) == pytest.approx(87.5)
    assert people_at(stages[:2], 250) == 75
    assert people_at([company(50, 500)], 250) == pytest.approx(25)
