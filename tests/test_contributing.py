"""CONTRIBUTING.md is followed step by step on a copy of the sources, and what was added works."""

import os
import re
import shutil
import subprocess
import sys
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[1]
PAGE = (ROOT / "CONTRIBUTING.md").read_text(encoding="utf-8")
STEP = re.compile(
    r"^(?:New file `(?P<new>[^`]+)`|In `(?P<old>[^`]+)`, (?P<side>before|after) `(?P<mark>[^`]+)`):"
    r"\n\n```\w+\n(?P<text>.*?)```$",
    re.DOTALL | re.MULTILINE,
)


def followed(package: Path) -> int:
    """Follow the page in a copy of the package; return how many steps there were."""
    steps = list(STEP.finditer(PAGE))
    for step in steps:
        text = step["text"]
        if step["new"]:
            file = package / step["new"]
            file.parent.mkdir(exist_ok=True)
            file.write_text(text, encoding="utf-8")
            continue
        file = package / step["old"]
        whole, mark = file.read_text(encoding="utf-8"), step["mark"]
        before, found, after = whole.partition(f"\n{mark}")
        assert found, f"{step['old']} has no {mark!r} any more"
        if step["side"] == "before":
            whole = f"{before}\n{text}{mark}{after}"
        else:
            whole = f"{before}\n{mark}\n{text}{after.lstrip(chr(10))}"
        file.write_text(whole, encoding="utf-8")
    return len(steps)


@pytest.fixture(scope="module")
def copy(tmp_path_factory):
    folder = tmp_path_factory.mktemp("contributed")
    shutil.copytree(
        ROOT / "src" / "bottega", folder / "bottega", ignore=shutil.ignore_patterns("__pycache__")
    )
    assert followed(folder / "bottega") == PAGE.count("```") // 2
    return folder


def run(folder, *words):
    found = subprocess.run(
        [sys.executable, *words],
        env={**os.environ, "PYTHONPATH": str(folder), "PYTHONDONTWRITEBYTECODE": "1"},
        capture_output=True,
        text=True,
        cwd=folder,
    )
    assert found.returncode == 0, found.stdout + found.stderr
    return found.stdout


def test_the_check_and_the_archetype_are_in_a_whole_library(copy):
    assert "whole" in run(copy, "-m", "bottega", "library", "check")
    code = (
        "from bottega.core.library.shelf import shipped_shelf as s\n"
        "m = s().machine('FX'); print(m.name, m.checks['feel_outlet_hose'].name)"
    )
    assert "narrow Feel along the outlet hose" in run(copy, "-c", code)


JOB = """
from bottega.app.workshop import open_workshop
from bottega.app.call.call import Call, Words, open_job
from bottega.app.job.answer import diagnose
from bottega.app.job.ledger import ledger
from bottega.app.job.record import parse_body, record
from bottega.web.application import create_app
from fastapi.testclient import TestClient
w = open_workshop(None)
call = Call(machine="FX", age_years=5, place="Quay")
n = open_job(w, call, Words(""), "Pia", event_id="opened-00").number
record(w, n, parse_body({"kind": "weighed", "kilograms": 6.5}), "Pia", event_id="weighed-0")
print(ledger(diagnose(w, n))[-1].what)
with TestClient(create_app(w, hosts=["testserver"])) as client:
    print(client.get(f"/jobs/{n}/scales").text)
"""


def test_the_event_is_noted_told_and_on_its_page(copy):
    said = run(copy, "-c", JOB)
    assert said.startswith("Weighed the washing")
    assert "<p>6.5 kg</p>" in said


def test_the_bench_prints_what_it_measured(copy):
    assert '"ms":' in run(copy, "-m", "bottega", "bench", "scales")


def test_what_was_added_keeps_the_houses_style(copy):
    rules = ("check", "--config", str(ROOT / "pyproject.toml"))
    run(copy, "-m", "ruff", *rules, "bottega/core", "bottega/web", "bottega/benchmark")
    config = str(ROOT / "pyproject.toml")
    run(copy, "-m", "mypy", "--config-file", config, "bottega/core/job/events.py")


ROOM = re.compile(r"^\| `(?P<room>[a-z/]+)` \| (?P<told>.+) \|$", re.MULTILINE)


def test_the_map_of_rooms_is_the_tree():
    """A new package wants its line, and what a line names is there."""
    source = ROOT / "src" / "bottega"
    packages = {
        path.parent.relative_to(source).as_posix()
        for path in source.rglob("__init__.py")
        if "migrations" not in path.parts and path.parent != source
    }
    rooms = {found["room"]: found["told"] for found in ROOM.finditer(PAGE)}
    assert set(rooms) == packages
    for room, told in rooms.items():
        for name in re.findall(r"`([a-z_]+)`", told.replace("`data/`", "")):
            assert (source / room / f"{name}.py").is_file() or (source / room / name).is_dir(), name
