"""Tests that break one file of a copy of the library read the others once."""

import shutil
from functools import lru_cache
from pathlib import Path

import pytest

from bottega.core.library import yamlfile
from bottega.core.library.shelf import DATA


@pytest.fixture(scope="session", autouse=True)
def read_once():
    """The same text parses to the same source, whichever copy of the library it stands in."""
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(yamlfile, "parse_yaml", lru_cache(maxsize=None)(yamlfile.parse_yaml))
        yield


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    """A copy of the library with one kind of machine and one sheet of it, to break."""
    for sub in ("assemblies", "tables"):
        shutil.copytree(DATA / sub, tmp_path / sub)
    for one in ("archetypes/FB.yaml", "sheets/nembrio-f7.yaml"):
        (tmp_path / one).parent.mkdir()
        shutil.copy(DATA / one, tmp_path / one)
    return tmp_path
