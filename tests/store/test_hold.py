"""One writer of a data folder: a second one is told who is there, and the lock ends with whoever
held it, killed or not."""

import signal
import subprocess
import sys
from datetime import UTC, datetime

import pytest
from typer.testing import CliRunner

from bottega.app.workshop import open_workshop
from bottega.cli import app
from bottega.store.backup import copy_shop
from bottega.store.database import FILE, StoreError
from bottega.store.hold import FolderHeld, Hold

NOW = datetime(2026, 11, 30, 8, 0, tzinfo=UTC)
HOLDS = """
import sys
from datetime import datetime
from pathlib import Path
from bottega.store.hold import Hold
hold = Hold(Path(sys.argv[1]), "serve", datetime.now().astimezone())
print("held", flush=True)
sys.stdin.read()
"""


def test_a_second_one_is_told_who_holds_it(tmp_path):
    first = Hold(tmp_path / "new", "serve", NOW)
    with pytest.raises(FolderHeld, match=r"in use by `bottega serve`, process [0-9]+, since 2026"):
        Hold(tmp_path / "new", "restore", NOW)
    first.let_go()
    Hold(tmp_path / "new", "restore", NOW).let_go()


def test_whoever_is_killed_holds_it_no_more(tmp_path):
    command = [sys.executable, "-c", HOLDS, str(tmp_path)]
    pipe = subprocess.PIPE
    with subprocess.Popen(command, stdin=pipe, stdout=pipe, text=True) as other:
        assert other.stdout.readline() == "held\n"
        with pytest.raises(FolderHeld, match=f"process {other.pid}"):
            Hold(tmp_path, "serve", NOW)
        other.send_signal(signal.SIGKILL)
    Hold(tmp_path, "serve", NOW).let_go()


@pytest.mark.parametrize("text", ["", "{", "[]", '{"command": 1}', "null"])
def test_a_lock_that_says_nothing_of_use_is_another_program(tmp_path, text):
    hold = Hold(tmp_path, "serve", NOW)
    (tmp_path / "bottega.lock").write_text(text)
    with pytest.raises(FolderHeld, match="another program"):
        Hold(tmp_path, "serve", NOW)
    hold.let_go()


def test_a_folder_that_cannot_be_written_is_called_so(tmp_path):
    (tmp_path / "file").write_text("x")
    with pytest.raises(StoreError, match="expected a folder"):
        Hold(tmp_path / "file", "serve", NOW)


@pytest.mark.parametrize(
    "command",
    [
        ["serve", "--port", "0"],
        ["demo", "--port", "0"],
        ["restore", "{copy}", "--force"],
        ["import", "{copy}"],
    ],
)
def test_no_command_writes_in_a_folder_that_is_served(tmp_path, command):
    shop = tmp_path / "shop"
    workshop = open_workshop(shop)
    copy_shop(shop / FILE, tmp_path / "copy")
    workshop.close()
    before = (shop / FILE).read_bytes()
    hold = Hold(shop, "serve", NOW)
    words = [one.format(copy=tmp_path / "copy") for one in command]
    found = CliRunner().invoke(app, [*words, "--data", str(shop)])
    assert found.exit_code == 1
    assert "in use by `bottega serve`" in found.output
    assert (shop / FILE).read_bytes() == before
    hold.let_go()
