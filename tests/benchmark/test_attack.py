"""The attack, small: every part of it runs on the real application and its table can say that
something fell."""

import json
import socket

import pytest
from typer.testing import CliRunner

from bottega.benchmark import attack, siege
from bottega.benchmark.attack import AttackBench, attack_rows
from bottega.benchmark.attacker import Tally
from bottega.cli import app

pytestmark = pytest.mark.e2e


def test_a_small_attack_finds_nothing_fallen(monkeypatch):
    monkeypatch.setattr(attack, "NOTES_EACH", 4)
    monkeypatch.setattr(attack, "WRITERS", 8)
    monkeypatch.setattr(attack, "FULL_TRIES", 30)
    monkeypatch.setattr(siege, "NASTY", siege.NASTY[:2])
    monkeypatch.setattr(siege, "STREAMS", 8)
    monkeypatch.setattr(siege, "NOTES", 40)
    monkeypatch.setattr(siege, "READS", 10)
    monkeypatch.setattr(siege, "_wide_png", lambda points: b"\x89PNG")
    monkeypatch.setattr(siege, "_many_names", lambda count: b"PK\x03\x04")
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    command = ["bench", "attack", "--json", "--minutes", "0.1", "--requests", "60"]
    command += ["--kills", "1", "--port", str(port)]
    run = CliRunner().invoke(app, command)
    assert run.exit_code == 0, run.output
    bench = AttackBench(**json.loads(run.stdout[run.stdout.index("{") :]))
    assert bench.first_errors == []
    assert (bench.server_errors, bench.lost, bench.doubled) == (0, 0, 0)
    assert bench.kills == 1
    assert bench.requests > 60
    assert [row[2] for row in attack_rows(bench)[1]][:3] == ["0", "0", "0"]


def test_a_server_error_is_counted_and_a_stated_trouble_is_not():
    tally = Tally()
    for status in (200, 404, 503, 507, 500, 599):
        tally.note("sent", status, 0.1 * status)
    assert tally.requests == 6
    assert tally.errors == ["sent: 500", "sent: 599"]
    assert tally.slowest_s == pytest.approx(59.9)
