"""The command line: what it refuses, where it ends with 1, and what it leaves behind."""

import sqlite3
import subprocess
import sys
from contextlib import closing
from pathlib import Path

import pytest
from tests.conftest import Clock
from typer.testing import CliRunner

from bottega.app.workshop import open_workshop
from bottega.cli import app, main
from bottega.store.database import FILE


def run(*words):
    return CliRunner().invoke(app, [str(word) for word in words])


@pytest.fixture
def shop(tmp_path):
    made = open_workshop(tmp_path / "shop", Clock())
    made.change_member("Pia Lund", lambda _: "trainee")
    made.close()
    return tmp_path / "shop"


@pytest.mark.parametrize("command", ["serve", "demo"])
@pytest.mark.parametrize("host", ["0.0.0.0", "192.168.1.4", "::", "faro.local"])
def test_an_address_beyond_this_computer_is_refused_with_the_way_out(tmp_path, command, host):
    found = run(command, "--host", host, "--data", tmp_path / "new")
    assert found.exit_code == 1
    assert host in found.stderr
    assert "ssh -L 8017:127.0.0.1:8017" in found.stderr
    assert not (tmp_path / "new").exists()


def test_a_copy_is_made_checked_and_put_back(shop, tmp_path):
    copy = tmp_path / "copy.sqlite"
    assert "0 jobs, 0 events" in run("backup", copy, "--data", shop).stdout
    again = run("backup", copy, "--data", shop)
    assert again.exit_code == 1
    assert "--force" in again.stderr
    assert run("backup", tmp_path / "x", "--data", tmp_path / "mistyped").exit_code == 1
    assert not (tmp_path / "x").exists()
    assert run("check", "--data", shop).stdout.startswith("Sound")
    assert run("restore", copy, "--data", tmp_path / "back").exit_code == 0
    assert "Pia Lund" in run("token", "Nobody", "--data", tmp_path / "back").stderr
    (tmp_path / "back" / FILE).write_bytes(b"not a database" * 99)
    assert run("check", "--data", tmp_path / "back").exit_code == 1


def test_a_token_is_for_members_and_the_key_is_its_owners(shop):
    made = run("token", "Pia Lund", "--data", shop)
    assert made.exit_code == 0
    assert len(made.stdout.strip()) > 20
    assert run("token", "Nobody", "--data", shop).exit_code == 1
    assert (shop / "session.key").stat().st_mode & 0o077 == 0


def test_what_a_kind_need_not_answer_is_told_with_its_reason():
    told = run("library", "excuses", "TG")
    assert told.exit_code == 0
    lines = told.stdout.strip().splitlines()
    assert lines
    assert all(": " in line and ". Not here: " in line for line in lines)
    unknown = run("library", "excuses", "ZZ")
    assert unknown.exit_code == 1
    assert "expected one of" in unknown.stderr


def test_the_library_is_checked_with_file_and_line(tmp_path):
    import shutil

    from bottega.core.library.shelf import DATA

    shutil.copytree(DATA, tmp_path / "library")
    assert run("library", "check", "--folder", tmp_path / "library").exit_code == 0
    drain = tmp_path / "library" / "assemblies" / "drain.yaml"
    text = drain.read_text(encoding="utf-8")
    drain.write_text(text.replace("tool: tray", "tool: trey", 1), encoding="utf-8")
    found = run("library", "check", "--folder", tmp_path / "library")
    assert found.exit_code == 1
    line = text[: text.index("tool: tray")].count("\n") + 1
    assert f"drain.yaml:{line}" in found.stdout
    assert "'trey'" in found.stdout


def test_it_starts_where_posix_modules_are_missing():
    """As on Windows: nothing that is imported at the start may want them."""
    code = (
        "import sys\n"
        "for name in ('resource', 'fcntl', 'termios', 'pwd', 'grp'):\n"
        "    sys.modules[name] = None\n"
        "import bottega.cli, bottega.benchmark.diagnosis, bottega.benchmark.web\n"
        "import bottega.benchmark.attack\n"
        "print('started')\n"
    )
    found = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True)
    assert found.stdout == "started\n", found.stderr


def test_a_command_loads_what_it_works_with_and_nothing_else(tmp_path):
    """The help loads neither numbers nor database; a shop is opened without the web."""
    assert loaded("", ("numpy", "sqlalchemy", "bottega.app", "bottega.benchmark")) == []
    opened = (
        "from typer.testing import CliRunner\n"
        "runner, app = CliRunner(), bottega.cli.app\n"
        f"said = runner.invoke(app, ['export', '0', '--data', {str(tmp_path)!r}])\n"
        "assert 'no job' in said.stderr, said.output\n"
    )
    web = ("pint", "httpx2", "schemathesis", "hypothesis", "fastapi", "uvicorn", "jinja2")
    assert loaded(opened, ("sqlalchemy", *web)) == ["sqlalchemy"]


def loaded(code, names):
    """Return which of some modules stand in memory after the command line did something."""
    code = f"import sys, bottega.cli\n{code}print(*(n for n in {names!r} if n in sys.modules))\n"
    found = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True)
    assert found.returncode == 0, found.stderr
    return found.stdout.split()


def test_a_data_folder_that_cannot_be_is_said(tmp_path):
    (tmp_path / "file").write_text("x")
    found = run("serve", "--data", Path(tmp_path / "file"))
    assert found.exit_code == 1
    assert "expected a folder to write in" in found.stderr


def test_a_panel_is_decoded_without_a_job(tmp_path):
    def decoded(*words):
        return run("panel", "decode", "--sheet", *words)

    shown = decoded("nembrio-f7", "--flashes", "2-1,2-1,2-2")
    assert shown.stdout.split()[1] == "2-1"
    assert "Seems miscounted: round 3 (2-2)" in shown.stdout
    assert decoded("torvane-alta-10", "--lamps", "1,4").stdout.split()[1] == "1.4"
    assert decoded("sestra-torre", "--lamps", "o-*.--o").exit_code == 0
    assert decoded("ostrel-linea-t", "--lamps", "low 4").stdout.split()[1] == "low-4"
    assert "lumo" in decoded("calvessa-dritta-8", "--display", "lomo").stdout
    assert decoded("quernia-compatta-5", "--flashes", "hhhll,hhhl").stdout.split()[1] == "hhhll"
    record = tmp_path / "lamp.csv"
    record.write_text("time,lamp,on\n0,1,1\n.3,1,0\n.9,1,1\n1.2,1,0\n4,1,1\n4.3,1,0\n")
    assert decoded("nembrio-f7", "--csv", record).stdout.split()[1] == "2-1"
    record.write_bytes(b"\xff\xfe\x00time")
    for words in (
        ("nembrio-f7",),
        ("nobody", "--flashes", "1-1"),
        ("nembrio-f7", "--flashes", "1-x"),
        ("nembrio-f7", "--csv", record),
        ("nembrio-f7", "--csv", tmp_path / "gone.csv"),
    ):
        found = decoded(*words)
        assert found.exit_code == 1
        assert found.stderr.strip()
        assert "Traceback" not in found.stderr


@pytest.mark.parametrize("key", [b"\xff\xfe" * 30, b"", b"short", b"\x00" * 40])
def test_a_key_that_is_none_is_said(shop, key):
    (shop / "session.key").write_bytes(key)
    found = run("token", "Pia Lund", "--data", shop)
    assert found.exit_code == 1
    assert "Found no key in" in found.output


@pytest.mark.parametrize("version", ["", "abc", "9999", b"\xff\x00"])
def test_an_odd_version_of_the_database_is_said(shop, version):
    with closing(sqlite3.connect(shop / FILE)) as database:
        database.execute("UPDATE alembic_version SET version_num = ?", (version,))
        database.commit()
    found = run("export", "0401", "--data", shop)
    assert found.exit_code == 1
    assert "version" in found.output


def test_what_no_command_expected_of_the_disk_is_a_sentence(shop, monkeypatch, capsys):
    def full(*_args, **_more):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr("bottega.commands.shop._secret", full)
    monkeypatch.setattr("sys.argv", ["bottega", "token", "Pia Lund", "--data", str(shop)])
    with pytest.raises(SystemExit) as ended:
        main()
    assert ended.value.code == 1
    assert "No space left on device" in capsys.readouterr().err
