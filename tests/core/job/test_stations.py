"""Where a job stands among its stations."""

from tests.core.job.log import PLUG_IN, UNPLUG, Log

from bottega.core.job.events import (
    Complained,
    PanelRead,
)
from bottega.core.job.stations import current_station, stations


def test_the_job_stands_where_work_is_open(log, f7):
    assert current_station(log.job, f7) == "call"
    log.do(Complained(text="hums", said=("says_hums",)), UNPLUG)
    assert current_station(log.job, f7) in ("panel", "prove")
    log.refused(PanelRead(result="none"), "its panel shows nothing")
    log.do(PLUG_IN, PanelRead(result="none"))
    assert current_station(log.job, f7) == "prove"


def test_a_machine_without_a_panel_has_no_panel_to_read(shelf):
    bare = shelf.machine("FB")
    assert bare.panel is None
    marks = {stamp.id: stamp.mark for stamp in stations(Log(bare).job, bare)}
    assert marks["panel"] == "none"
    assert marks["call"] == "open"
