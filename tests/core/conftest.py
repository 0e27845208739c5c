"""A job on a machine that stands there plugged in and full of water."""

import pytest
from tests.core.job.log import Log


@pytest.fixture
def log(f7):
    return Log(f7, power="on", taps="open", water="in")
