"""The bench: summaries follow the log, whatever the number of jobs."""

from tests.app.steps import WHO
from tests.conftest import new_id

from bottega.app.bench.sheets import bench
from bottega.app.job.answer import diagnose
from bottega.app.job.record import record
from bottega.core.job.events import Checked, StateChanged


def test_the_bench_is_rebuilt_from_the_log(workshop, houseboat):
    bench(workshop)
    record(workshop, houseboat, StateChanged(what="drum", to="empty"), WHO, event_id=new_id())
    record(
        workshop, houseboat, Checked(check="turn_drum", outcome="rumbles"), WHO, event_id=new_id()
    )
    fresh = bench(workshop)[0]
    assert workshop.summaries.of([houseboat])[0].seq == diagnose(workshop, houseboat).seq
    assert workshop.summaries.stale() == []
    assert fresh.headline
