"""The ledger: what was answered again, and the bars of its weights."""

from bottega.app.job.answer import diagnose
from bottega.app.job.ledger import ledger
from bottega.app.job.record import record
from bottega.core.job.events import Checked

WHO = "Ilaria Venn"


def test_an_answer_given_again_supersedes_the_first_in_the_ledger(workshop, houseboat):
    for place, outcome in enumerate(("clear", "blocked")):
        record(
            workshop,
            houseboat,
            Checked(check="ask_filter", outcome=outcome),
            WHO,
            event_id=f"again-{place:04d}",
        )
    rows = {row.event_id: row for row in ledger(diagnose(workshop, houseboat))}
    assert rows["again-0000"].superseded
    assert not rows["again-0001"].superseded
