"""What is kept: bounded, the oldest goes first, one value for all threads."""

import threading

from bottega.core.kept import Kept


def test_the_one_asked_for_longest_ago_goes_first():
    kept: Kept[str, int] = Kept(2)
    assert [kept.get(name, lambda n=n: n) for n, name in enumerate("abac")] == [0, 1, 0, 3]
    assert kept.get("a", lambda: 9) == 0
    assert kept.get("b", lambda: 9) == 9
    assert len(kept) == 2
    kept.clear()
    assert len(kept) == 0


def test_everybody_gets_the_value_kept_first():
    kept: Kept[str, object] = Kept(4)
    start, found = threading.Barrier(8), []

    def ask():
        start.wait()
        found.append(kept.get("x", object))

    threads = [threading.Thread(target=ask) for _ in range(8)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert len({id(value) for value in found}) == 1


def test_what_fails_is_not_kept():
    kept: Kept[str, int] = Kept(4)
    for _ in range(2):
        try:
            kept.get("x", lambda: 1 // 0)
        except ZeroDivisionError:
            continue
    assert len(kept) == 0


def test_what_takes_much_room_leaves_less_for_others_but_the_last_is_always_kept():
    kept: Kept[str, int] = Kept(9, most_bytes=100, weigh=lambda value: value)
    for name, size in (("a", 40), ("b", 50), ("c", 30)):
        kept.get(name, lambda size=size: size)
    assert (len(kept), kept.nbytes) == (2, 80)
    kept.get("large", lambda: 1000)
    assert (len(kept), kept.nbytes) == (1, 1000)
    assert kept.get("large", lambda: 0) == 1000
    kept.get("a", lambda: 40)
    assert (len(kept), kept.nbytes) == (1, 40)
