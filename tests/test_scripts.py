"""The browser's scripts: their types were checked as they stand, and each has its tests."""

from hashlib import sha256
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[1]
SCRIPTS = sorted((ROOT / "src/bottega/web/static/scripts").glob("*.js"))
LOADS_THE_REST = "main"


def test_the_type_checker_has_passed_the_scripts_as_they_stand():
    found = sha256()
    for script in SCRIPTS:
        found.update(script.name.encode() + script.read_bytes())
    checked = (ROOT / "assets/checked.sha256").read_text().strip()
    assert found.hexdigest() == checked, (
        "the scripts changed since `make assets` checked their types"
    )


@pytest.mark.parametrize("script", [s.stem for s in SCRIPTS if s.stem != LOADS_THE_REST])
def test_a_script_has_tests_of_its_name(script):
    assert (ROOT / f"tests/e2e/scripts/test_{script}.py").exists()
