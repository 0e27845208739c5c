"""The project keeps its own rules: the core's imports, the guide's coverage, no addresses in the
locks."""

import ast
import re
import shutil
import sys
from collections.abc import Iterator
from importlib.util import module_from_spec, spec_from_file_location
from pathlib import Path

import pytest
from typer.testing import CliRunner, Result

from bottega.cli import app

ROOT = Path(__file__).parents[1]
CORE = ROOT / "src" / "bottega" / "core"
ALLOWED = {
    "numpy",
    "pydantic",
    "ruamel",
    "pint",
    "platformdirs",
    "rapidfuzz",
    "snowballstemmer",
    "bottega",
}


def imported(path: Path) -> set[str]:
    tree = ast.parse(path.read_text(encoding="utf-8"))
    names: set[str] = set()
    for node in ast.walk(tree):
        if isinstance(node, ast.Import):
            names |= {alias.name for alias in node.names}
        elif isinstance(node, ast.ImportFrom) and node.module:
            names.add(node.module)
    return names


@pytest.mark.parametrize("path", sorted(CORE.rglob("*.py")), ids=lambda p: str(p.relative_to(CORE)))
def test_the_core_imports_only_what_it_may(path):
    for name in imported(path):
        top = name.partition(".")[0]
        assert top in ALLOWED or top in sys.stdlib_module_names, name
        assert not name.startswith("bottega.") or name.startswith("bottega.core"), name
        assert top not in {"socket", "urllib", "http", "time"}, name


@pytest.mark.parametrize("path", sorted(CORE.rglob("*.py")), ids=lambda p: str(p.relative_to(CORE)))
def test_the_core_draws_nothing_at_random_without_a_seed(path):
    """Only the generator class may come in, and where one is made it is given a seed."""
    tree = ast.parse(path.read_text(encoding="utf-8"))
    for node in ast.walk(tree):
        if isinstance(node, ast.Import):
            assert all(alias.name != "random" for alias in node.names)
        if isinstance(node, ast.ImportFrom) and node.module == "random":
            assert [alias.name for alias in node.names] == ["Random"]
        if isinstance(node, ast.Call) and ast.unparse(node.func).endswith(
            ("Random", "default_rng")
        ):
            assert node.args, f"{path.name}: {ast.unparse(node)} has no seed"


def test_only_one_module_reads_yaml():
    readers = [
        p for p in (ROOT / "src").rglob("*.py") if any(n.startswith("ruamel") for n in imported(p))
    ]
    assert {p.name for p in readers} == {"yamlfile.py"}


@pytest.mark.parametrize(
    "lock", ["requirements.lock", "requirements-dev.lock", "assets/package-lock.json"]
)
def test_locks_name_no_registry(lock):
    text = (ROOT / lock).read_text(encoding="utf-8")
    assert not re.search(r"--(extra-)?index-url|find-links|trusted-host|\"resolved\"|file://", text)
    assert "sha256:" in text or "sha512-" in text


def definitions(body: list[ast.stmt]) -> Iterator[ast.FunctionDef | ast.ClassDef]:
    """Yield the functions, classes and methods of a module; not what is within functions."""
    for node in body:
        if isinstance(node, (ast.FunctionDef, ast.ClassDef)):
            yield node
        if isinstance(node, ast.ClassDef):
            yield from definitions(node.body)


def test_every_public_function_of_the_core_has_a_docstring():
    bare = [
        f"{path.name}:{node.name}"
        for path in CORE.rglob("*.py")
        for node in definitions(ast.parse(path.read_text(encoding="utf-8")).body)
        if not node.name.startswith("_") and not ast.get_docstring(node)
    ]
    assert bare == []


def test_the_command_line_diagnoses_an_exported_job(filled, tmp_path, monkeypatch):
    def run(*arguments: str) -> Result:
        return CliRunner().invoke(app, arguments)

    monkeypatch.chdir(tmp_path)
    shutil.copytree(filled, tmp_path / "shop")
    exported = run("export", "0412", "--data", "shop")
    (tmp_path / "job.json").write_text(exported.stdout)
    text = run("diagnose", "job.json")
    assert "Turn the pump rotor by hand" in text.stdout
    assert "dB  customer: it hums when it should drain" in text.stdout
    assert '"fault": "rotor_slips"' in run("diagnose", "job.json", "--json").stdout
    assert "is in" in run("import", "job.json", "--data", "other").stdout
    assert run("backup", "copy.sqlite", "--data", "shop").exit_code == 0
    (tmp_path / "cut.json").write_text(exported.stdout[:300])
    cut = run("diagnose", "cut.json")
    assert cut.exit_code == 1
    assert "cut or is not JSON" in cut.stderr
    assert "Cannot read" in run("diagnose", "nowhere.json").stderr


@pytest.mark.parametrize("script", sorted((ROOT / "scripts").glob("*.py")), ids=lambda s: s.name)
def test_a_script_finds_everything_it_imports(script):
    loaded = spec_from_file_location(script.stem, script)
    loaded.loader.exec_module(module_from_spec(loaded))
