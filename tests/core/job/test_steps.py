"""What each kind of event makes of a job."""

from bottega.core.job.events import (
    Checked,
    Complained,
    Decided,
    EntryTried,
    PanelRead,
    Stuck,
    Temporary,
    Waiting,
)
from bottega.core.job.steps import (
    checked,
    complained,
    decided,
    entry_tried,
    panel_read,
    stuck,
    temporary,
    unchanged,
    waiting,
)

DECIDED = Decided(choice="repair", repair="drain_pump.part")


def test_a_complaint_replaces_the_last_unless_it_adds(log):
    first = Complained(text="hums", said=("says_hums",))
    job = complained(log.job, first)
    other = Complained(text="it leaks", said=("says_leaks",))
    assert complained(job, other).complaint == other
    both = complained(job, other.model_copy(update={"adds": True})).complaint
    assert set(both.said) == {"says_hums", "says_leaks"}


def test_what_is_stuck_comes_off_the_list_when_it_moves(log):
    job = stuck(log.job, Stuck(operation="top"))
    assert stuck(job, Stuck(operation="top")).stuck == ("top",)
    assert stuck(job, Stuck(operation="top", moves=True)).stuck == ()


def test_failed_entries_are_counted_until_it_listens(log):
    job = log.job
    for tried in (1, 2):
        job = entry_tried(job, EntryTried(listened=False))
        assert job.entry_failed == tried
    assert entry_tried(job, EntryTried(listened=True)).entry_failed == 0
    assert panel_read(job, PanelRead(result="none")).entry_failed == 0


def test_a_decision_ends_the_wait_for_the_customer_and_for_nobody_else(log):
    for on, left in (("customer", False), ("part", True)):
        job = decided(waiting(log.job, Waiting(on=on)), DECIDED)
        assert (job.waiting is not None) is left
    assert waiting(job, Waiting(on="nothing")).waiting is None


def test_what_is_temporary_is_there_once_and_goes_when_undone(log):
    made = Temporary(what="a jug under the pump")
    job = temporary(temporary(log.job, made), made)
    assert job.temporary == (made.what,)
    undone = made.model_copy(update={"undone": True})
    assert temporary(job, undone).temporary == ()


def test_a_check_leaves_the_machine_as_it_says(log):
    body = Checked(check="watch_emptying", outcome="normal", leaves={"water": "out"})
    assert checked(log.job, body).state.water == "out"
    job = log.job
    assert unchanged(job, body) is job
