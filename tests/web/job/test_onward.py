"""What is done with goes on to the next station by itself; what is not stays where it is."""

import re

import pytest
from tests.conftest import new_id
from tests.web.conftest import seq

from bottega.app.decide.decision import choices
from bottega.app.job.answer import diagnose
from bottega.app.job.record import new_event
from bottega.core.job.events import Decided, QuoteLine
from bottega.core.job.proofs import owed

JOB = "0412"
AGREED = "as agreed on the phone"


def goes_to(browser, demo, address, **fields):
    answer = browser.form(f"/jobs/{JOB}/{address}", seq(demo), **fields)
    assert answer.status_code == 303, answer.text[:400]
    return answer.headers["location"].removeprefix(f"/jobs/{JOB}/")


def open_it(browser, demo):
    """Do what stands first on *Open up* until the screen goes on; return where it went, per
    step."""
    went = []
    while not went or went[-1] == "open":
        page = browser.get(f"/jobs/{JOB}/open").text
        step = re.search(r"<ul data-reach.*?</form>", page, re.S).group()
        fields = dict(re.findall(r'name="(kind|what|to|operation)" value="([^"]*)"', step))
        action = re.search(r'action="/jobs/[^/]+/([^"]+)"', step).group(1)
        went.append(goes_to(browser, demo, action, **fields))
    return went


def settle(browser, demo):
    """Settle everything owed, in order; return where the screen went, per thing."""
    went = []
    for debt in owed(diagnose(demo, JOB).job, diagnose(demo, JOB).machine):
        fields = {"kind": "waived", "owed": debt.kind, "subject": debt.subject}
        went.append(goes_to(browser, demo, "proof/event", reason="for the test", **fields))
    return went


def test_what_was_decided_keeps_its_quote_while_the_machine_comes_apart(browser, demo):
    """The work done since is no discount; what is not decided is quoted as the machine stands."""
    goes_to(browser, demo, "decide/decide", repair="drain_pump.part", reason=AGREED)
    agreed = diagnose(demo, JOB).job.decided
    open_it(browser, demo)
    page = browser.get(f"/jobs/{JOB}/decide").text
    (taken,) = [block for block in page.split("data-option") if ">Decided</strong>" in block]
    shown = [float(amount) for amount in re.findall(r"€([\d.]+)", taken.split("</details>")[0])]
    assert shown == [agreed.total, *(line.amount for line in agreed.lines)]
    assert sum(shown[1:]) == pytest.approx(agreed.total, abs=0.02)


@pytest.mark.parametrize(
    ("lines", "shown"),
    [((), ""), ((QuoteLine(text="Agreed", amount=12.5),), "£12.50")],
)
def test_a_decision_is_shown_as_it_was_kept(browser, demo, lines, shown):
    """Without its lines, as some were kept once, it is quoted anew; in another
    currency it stays in that one."""
    kept = Decided(
        choice="repair", repair="drain_pump.part", lines=lines, total=12.5, currency="GBP"
    )
    demo.log.append(JOB, new_event(demo, kept, "Pia", new_id()), seq(demo))
    offered = choices(demo, diagnose(demo, JOB))
    quoted = next(o for o in offered if o.key == "drain_pump.part").quote.total
    page = browser.get(f"/jobs/{JOB}/decide").text
    (taken,) = [block for block in page.split("data-option") if ">Decided</strong>" in block]
    assert (shown or f"€{quoted:.2f}") in taken


def test_opening_closing_and_proving_end_by_themselves(browser, demo):
    repair = {"repair": "drain_pump.part"}
    assert goes_to(browser, demo, "decide/decide", **repair, reason=AGREED) == "decide"
    assert "On to opening up" in browser.get(f"/jobs/{JOB}/decide").text
    opened = open_it(browser, demo)
    assert opened == ["open"] * (len(opened) - 1) + ["fit"]
    assert "On to fitting" in browser.get(f"/jobs/{JOB}/decide").text
    assert goes_to(browser, demo, "fit/event", kind="repaired", **repair) == "close"
    off = list(reversed(diagnose(demo, JOB).job.state.off))
    assert len(off) > 1
    back = [goes_to(browser, demo, "close/event", kind="put_back", operation=op) for op in off]
    assert back[:-1] == ["close"] * (len(off) - 1)
    assert back[-1] in {"proof", "close"}
    if back[-1] == "close":
        upright = {"kind": "state_changed", "what": "posture", "to": "upright"}
        assert goes_to(browser, demo, "close/event", **upright) == "proof"
    proved = settle(browser, demo)
    assert proved == ["proof"] * (len(proved) - 1) + ["handover"]
    assert goes_to(browser, demo, "handover/event", kind="handed_over") == "handover"


def test_taking_back_the_last_thing_stays_where_it_was_pressed(browser, demo):
    goes_to(browser, demo, "fit/event", kind="temporary", what="a prop")
    assert goes_to(browser, demo, "fit/undo") == "fit"
    assert goes_to(browser, demo, "safe/event", kind="temporary", what="a prop") == "safe"


def test_with_nothing_off_a_repair_goes_on_to_its_proof(browser, demo):
    assert diagnose(demo, JOB).job.state.off == ()
    assert goes_to(browser, demo, "fit/event", kind="repaired", repair="tap_shut.adjust") == "proof"
