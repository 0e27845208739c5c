"""What was compiled is what was read, and nothing else is ever taken for it."""

import os
import pickle

import pytest

from bottega.core.library.compiled import compiled
from bottega.core.library.shelf import DATA, read_shelf


class Reader:
    """Reads something and counts how often it was asked."""

    def __init__(self, found=("a", 1)):
        self.found, self.asked = found, 0

    def __call__(self):
        self.asked += 1
        return self.found


@pytest.fixture
def folder(tmp_path):
    (tmp_path / "data" / "tables").mkdir(parents=True)
    (tmp_path / "data" / "tables" / "words.yaml").write_text("a: 1\n")
    return tmp_path / "data"


@pytest.fixture
def cache(tmp_path):
    return tmp_path / "cache"


def kept(cache):
    return list(cache.glob("*.compiled"))


def test_the_shipped_library_comes_out_as_it_went_in(cache, shelf):
    read = compiled(DATA, lambda: read_shelf(DATA), cache)
    again = compiled(DATA, lambda: pytest.fail("it was kept"), cache)
    assert [vars(m) for m in again.machines()] == [vars(m) for m in read.machines()]
    assert [m.revision for m in again.machines()] == [m.revision for m in shelf.machines()]
    assert again.tables == read.tables
    assert again.sources["FB"].line_of(("places",)) == read.sources["FB"].line_of(("places",)) > 0


def test_the_same_texts_are_read_once_and_others_anew(folder, cache):
    reader = Reader()
    for _ in range(3):
        assert compiled(folder, reader, cache) == ("a", 1)
    assert reader.asked == 1
    (folder / "tables" / "words.yaml").write_text("a: 2\n")
    assert compiled(folder, Reader(("a", 2)), cache) == ("a", 2)


@pytest.mark.parametrize("harm", ["cut", "a bit", "empty", "open to others", "another's pickle"])
def test_what_is_not_whole_or_not_ours_is_read_anew(folder, cache, harm):
    compiled(folder, Reader(), cache)
    (file,) = kept(cache)
    raw = file.read_bytes()
    if harm == "cut":
        file.write_bytes(raw[:-3])
    elif harm == "a bit":
        file.write_bytes(raw[:-1] + bytes([raw[-1] ^ 1]))
    elif harm == "empty":
        file.write_bytes(b"")
    elif harm == "open to others":
        file.chmod(0o666)
    else:
        file.write_bytes(pickle.dumps("something else"))
    reader = Reader(("b", 2))
    assert compiled(folder, reader, cache) == ("b", 2)
    assert reader.asked == 1


def test_where_nothing_can_be_kept_it_is_read_each_time(folder, tmp_path):
    (tmp_path / "file").write_text("no folder")
    reader = Reader()
    assert [compiled(folder, reader, tmp_path / "file") for _ in range(2)] == [("a", 1)] * 2
    assert reader.asked == 2


def test_a_library_that_cannot_be_read_is_not_kept(folder, cache):
    def broken():
        raise ValueError("broken")

    for _ in range(2):
        with pytest.raises(ValueError, match="broken"):
            compiled(folder, broken, cache)
    assert not cache.exists()


def test_only_the_youngest_stay(folder, cache):
    seen = []
    for n in range(5):
        (folder / "tables" / "words.yaml").write_text(f"a: {n}\n")
        compiled(folder, Reader(), cache)
        (new,) = set(kept(cache)) - set(seen)
        os.utime(new, (n, n))
        seen.append(new)
    assert set(kept(cache)) == set(seen[-3:])
