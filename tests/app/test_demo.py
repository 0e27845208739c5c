"""The demo shop."""

from tests.app.steps import WHO
from tests.conftest import new_id

from bottega.app.bench.sheets import bench, search
from bottega.app.demo import fill
from bottega.app.job.answer import diagnose
from bottega.app.job.record import record
from bottega.core.job.events import StateChanged


def test_the_demo_shop_fills_once_and_keeps_what_changed(workshop):
    assert fill(workshop)
    sheets = {sheet.number: sheet for sheet in bench(workshop)}
    assert len({sheet.station for sheet in sheets.values()}) >= 4
    assert sheets["0412"].place == "Houseboat Ondina"
    assert {sheet.lane for sheet in sheets.values()} >= {"person", "part", "customer", "closed"}
    record(workshop, "0412", StateChanged(what="water", to="out"), WHO, event_id=new_id())
    seq = diagnose(workshop, "0412").seq
    assert not fill(workshop)
    assert diagnose(workshop, "0412").seq == seq
    assert [sheet.number for sheet in search(workshop, "ondina f7")] == ["0412"]


def test_the_guesthouse_ends_with_a_stack_from_the_shelf_before_the_ferry(shop):
    """Everything it is chosen from lies on the shelf; the bearings it waits for come later."""
    job = diagnose(shop, "0403").job
    stack = job.substitutes["bearings"]
    assert stack.on is None
    sizes = {"x".join(name.split()[:5:2]) for name in stack.parts}
    assert sizes <= set(shop.settings.seals)
    assert job.waiting is not None
    assert job.waiting.until.weekday() in shop.settings.ferry_days
