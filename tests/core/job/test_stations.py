"""Where a job stands among its stations."""

from tests.core.job.log import UNPLUG

from bottega.core.job.events import (
    Complained,
    PanelRead,
)
from bottega.core.job.stations import current_station


def test_the_job_stands_where_work_is_open(log, f7):
    assert current_station(log.job, f7) == "call"
    log.do(Complained(text="hums", said=("says_hums",)), UNPLUG)
    assert current_station(log.job, f7) in ("panel", "prove")
    log.do(PanelRead(result="none"))
    assert current_station(log.job, f7) == "prove"
