"""The workshop: a sheet that no longer loads is set aside and named; past revisions come when asked
for."""

import threading
from datetime import UTC, datetime

import pytest
from tests.conftest import Clock

from bottega.app.library.sheets import add_note, text_of
from bottega.app.workshop import open_workshop
from bottega.core.library.shelf import UnknownMachine, shipped_shelf
from bottega.core.library.yamlfile import parse_yaml

F7 = "nembrio-f7"
AT = datetime(2031, 5, 14, tzinfo=UTC)


@pytest.fixture
def folder(tmp_path):
    first = open_workshop(tmp_path, Clock())
    add_note(first, F7, "good", "Pia")
    first.sheets.append(F7, "sheet: nembrio-f7\ncolour: red\n", "Tomo", AT, 1)
    first.sheets.append("ghost", "sheet: ghost\nmaker: [", "Tomo", AT, 0)
    first.close()
    return tmp_path


def test_a_revision_that_does_not_load_is_set_aside_and_the_last_good_one_serves(folder):
    again = open_workshop(folder, Clock())
    assert again.machine("FB", F7).notes[-1] == "good"
    assert again.quarantine[F7].seq == 2
    assert again.quarantine[F7].author == "Tomo"
    assert "colour" in str(again.quarantine[F7].problems)
    with pytest.raises(UnknownMachine):
        again.machine("FB", "ghost")
    assert "ghost" in again.quarantine
    add_note(again, F7, "put right", "Pia")
    assert F7 not in again.quarantine
    assert len(again.sheets.of(F7)) == 3
    again.close()


def test_a_past_revision_is_loaded_when_somebody_asks_for_it(folder):
    again = open_workshop(folder, Clock())
    shipped = shipped_shelf().machine("FB", F7).revision
    first = again.machine("FB", F7).revision
    add_note(again, F7, "another", "Pia")
    assert again.machine("FB", F7, first).revision == first
    assert again.machine("FB", F7, first) is again.machine("FB", F7, first)
    assert again.machine("FB", F7, shipped).revision == shipped
    assert again.machine("FB", F7, "0" * 12) is again.machine("FB", F7)
    again.close()


def test_many_take_sheets_at_once_and_none_is_lost(workshop):
    before = workshop.edition
    texts = [
        text_of(workshop, F7).replace("sheet: nembrio-f7", f"sheet: copy-{n}") for n in range(8)
    ]
    threads = [
        threading.Thread(target=workshop.take, args=(parse_yaml(text.encode(), "x.yaml"),))
        for text in texts
    ]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert {f"copy-{n}" for n in range(8)} <= set(workshop.shelf.sheets)
    assert workshop.edition == before + 8


def test_settings_and_members_are_read_once_and_again_after_a_change(workshop):
    from dataclasses import replace

    assert workshop.settings is workshop.settings
    workshop.change_settings(lambda kept: replace(kept, currency="USD"))
    assert workshop.settings.currency == "USD"
    workshop.change_member("Ned Ash", lambda _: "technician")
    assert "Ned Ash" in [member.name for member in workshop.members]
