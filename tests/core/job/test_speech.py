"""Words as they can be compared."""

import sys
from concurrent.futures import ThreadPoolExecutor

import pytest

from bottega.core.job.speech import MOST_READ, Listener, stem

WORDS = ["leaking", "spinning", "bearings", "hopelessly", "rustled", "banging", "heats", "drips"]


@pytest.fixture
def impatient_threads():
    """Threads that take the interpreter from each other at every step."""
    usual = sys.getswitchinterval()
    sys.setswitchinterval(1e-6)
    yield
    sys.setswitchinterval(usual)


def test_two_people_may_speak_at_once(impatient_threads):
    unkept = stem.__wrapped__
    alone = [unkept(word) for word in WORDS]
    with ThreadPoolExecutor(4) as people:
        heard = people.map(unkept, WORDS * 100)
        assert list(heard) == alone * 100


def test_an_ear_remembers_no_more_words_than_it_needs(shelf):
    listener = Listener(shelf.tables.speech, ["drain", "spinning"])
    for n in range(MOST_READ + 50):
        listener.sentences("word" + "".join(chr(97 + int(digit)) for digit in str(n)))
    assert len(listener._read) <= MOST_READ
    assert [word.means for word in listener.sentences("it spining")[0].words][1] == stem("spinning")
