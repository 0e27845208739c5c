"""docs/diagnosis.md tells one job through the engine, and what it tells is so."""

import doctest
import re
from pathlib import Path

import bottega.core.diagnosis

PAGE = Path(__file__).parents[3] / "docs" / "diagnosis.md"
PACKAGE = Path(bottega.core.diagnosis.__file__).parent


def test_the_job_on_the_page_is_what_the_engine_says():
    found = doctest.testfile(str(PAGE), module_relative=False)
    assert found.attempted > 15
    assert found.failed == 0


def test_the_page_names_modules_there_are():
    told = PAGE.read_text(encoding="utf-8").split("```")[0]
    named = set(re.findall(r"`([a-z_]+)`", told))
    assert len(named) > 15
    assert [name for name in sorted(named) if not (PACKAGE / f"{name}.py").is_file()] == []
