"""`bottega rig` and `bottega library agree` from the command line: what they print, and what
they refuse in a line."""

import json

import pytest
from typer.testing import CliRunner

from bottega.cli import app


def run(*words: str, ok: bool = True) -> str:
    result = CliRunner().invoke(app, list(words))
    assert (result.exit_code == 0) is ok, result.output
    return result.output


def test_the_list_names_sheets_programmes_and_faults():
    assert "nembrio-f7" in run("rig", "list")
    one = run("rig", "list", "--sheet", "nembrio-f7")
    assert "programme cottons_60" in one
    assert "step      drain" in one
    assert "fault     rotor_slips" in one


def test_a_run_says_how_it_went_and_leaves_its_files(tmp_path):
    csv, wav, plot = (tmp_path / name for name in ("run.csv", "run.wav", "run.png"))
    files = ["--csv", str(csv), "--wav", str(wav), "--plot", str(plot)]
    said = run("rig", "run", "--sheet", "nembrio-f7", "--fault", "pump_coil_open:0.9", *files)
    assert "it stopped in drain" in said
    assert "stored: emptying" in said
    assert csv.read_text().startswith("seconds,level_l")
    assert wav.read_bytes()[:4] == b"RIFF"
    assert plot.read_bytes()[1:4] == b"PNG"


def test_a_run_ends_when_it_is_told_to():
    said = run("rig", "run", "--sheet", "FB", "--programme", "short", "--seconds", "30")
    assert said.startswith("0.5 minutes; it still runs")


@pytest.mark.parametrize(
    ("words", "says"),
    [
        (["--sheet", "nowhere"], "found the sheet 'nowhere'"),
        (
            ["--sheet", "FB", "--fault", "belt_off", "--fault", "belt_slipping"],
            "both cannot be at once",
        ),
        (["--sheet", "FB", "--fault", "belt_off:much"], "found the severity 'much'"),
        (["--sheet", "FB", "--programme", "boil"], "found the programme 'boil'"),
        (["--sheet", "FB", "--seconds", "-4"], "found -4 seconds"),
        (["--sheet", "FB", "--seconds", "5", "--plot", "run.bmp"], "found 'run.bmp'"),
        (["--sheet", "FB", "--seconds", "5", "--csv", "/dev/full"], "No space left on device"),
    ],
)
def test_what_cannot_be_run_is_said_in_a_line(words, says):
    said = run("rig", "run", *words, ok=False)
    assert says in said
    assert "Traceback" not in said


def test_agree_prints_its_shares():
    words = [
        "library",
        "agree",
        "--archetype",
        "FB",
        "--fault",
        "filter_blocked",
        "--specimens",
        "4",
    ]
    found = json.loads(_json(run(*words, "--check", "open_filter", "--json")))
    assert (found["pairs"], found["within"], found["share"]) == (1, 1, 1.0)
    assert found["without_recipe"] == []
    table = run(*words, "--check", "turn_rotor")
    assert "1 of 1 pairs agree" in table


def test_agree_refuses_a_kind_there_is_not():
    assert "found 'ZZ'" in run("library", "agree", "--archetype", "ZZ", ok=False)


def test_the_rigs_bench_prints_its_keys(monkeypatch):
    monkeypatch.setattr("bottega.benchmark.rigs.TIMED_S", 120.0)
    found = json.loads(_json(run("bench", "rig", "--json")))
    assert {"sim_minutes_per_s", "balance_heat", "balance_water"} <= found.keys()
    assert {"faults_injectable", "checks_with_recipe"} <= found.keys()


def _json(text: str) -> str:
    return text[text.index("{") :]
