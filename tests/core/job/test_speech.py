"""Words as they can be compared."""

import sys
from concurrent.futures import ThreadPoolExecutor

import pytest

from bottega.core.job.speech import stem

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
