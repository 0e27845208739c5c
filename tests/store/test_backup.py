"""Copies of a shop: new files only, from a shop only, verified, for their owner's eyes."""

import sqlite3
import stat

import pytest
from tests.store.test_log import OPEN, event

from bottega.store.backup import checked_shop, copy_shop, restore_shop
from bottega.store.database import FILE, StoreError, open_database
from bottega.store.log import EventLog


@pytest.fixture
def shop_file(tmp_path):
    database = open_database(tmp_path / "shop")
    EventLog(database).create([event(0, OPEN), event(1)], "0401")
    database.close()
    return tmp_path / "shop" / FILE


def test_a_copy_holds_everything_and_is_its_owners_only(shop_file, tmp_path):
    copied = copy_shop(shop_file, tmp_path / "copy.sqlite")
    assert (copied.jobs, copied.events, copied.problems) == (1, 2, ())
    assert stat.S_IMODE((tmp_path / "copy.sqlite").stat().st_mode) == 0o600
    assert stat.S_IMODE(shop_file.stat().st_mode) == 0o600


def test_a_good_copy_is_never_written_over_by_chance(shop_file, tmp_path):
    target = tmp_path / "copy.sqlite"
    copy_shop(shop_file, target)
    before = target.read_bytes()
    with pytest.raises(StoreError, match="already there"):
        copy_shop(shop_file, target)
    with pytest.raises(StoreError, match="found no shop"):
        copy_shop(tmp_path / "mistyped" / FILE, target, force=True)
    assert target.read_bytes() == before
    assert not (tmp_path / "mistyped").exists()
    assert copy_shop(shop_file, target, force=True).events == 2
    assert [path.name for path in tmp_path.iterdir() if "part" in path.name] == []


def test_what_is_no_shop_is_refused(shop_file, tmp_path):
    (tmp_path / "text").write_text("not a database, but long enough to look at" * 40)
    with pytest.raises(StoreError, match="expected a shop's database"):
        copy_shop(tmp_path / "text", tmp_path / "new")
    other = sqlite3.connect(tmp_path / "other.sqlite")
    other.execute("CREATE TABLE x (y)")
    other.close()
    with pytest.raises(StoreError, match="no table 'jobs'"):
        checked_shop(tmp_path / "other.sqlite")
    with pytest.raises(StoreError, match="found a folder"):
        copy_shop(shop_file, tmp_path)
    with pytest.raises(StoreError, match="the shop itself"):
        copy_shop(shop_file, shop_file, force=True)


def test_a_gap_in_a_log_is_found(shop_file):
    with sqlite3.connect(shop_file) as raw:
        raw.execute("DROP TRIGGER events_no_delete")
        raw.execute("DELETE FROM events WHERE seq = 1")
    raw.close()
    assert any("job 0401" in problem for problem in checked_shop(shop_file).problems)


def test_restored_it_is_the_same_shop(shop_file, tmp_path):
    copy_shop(shop_file, tmp_path / "copy.sqlite")
    restore_shop(tmp_path / "copy.sqlite", tmp_path / "elsewhere")
    database = open_database(tmp_path / "elsewhere")
    assert EventLog(database).read("0401") == [event(0, OPEN), event(1)]
    database.close()
    with pytest.raises(StoreError, match="already there"):
        restore_shop(tmp_path / "copy.sqlite", tmp_path / "elsewhere")
