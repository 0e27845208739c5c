"""Opening by the plan and closing by it, over HTTP: steps, tray, tags, photos, ladders, proofs."""

import io
import re
import zipfile

import pytest
from PIL import Image
from tests.conftest import SHEETS_OF_EVERY_KIND
from tests.web.conftest import seq

from bottega.app.job.answer import diagnose
from bottega.app.strip.plan import plan_of
from bottega.core.job.events import Repaired, TookOff
from bottega.core.job.kinds import told
from bottega.core.job.proofs import owed

JOB = "0403"
"""The guesthouse's machine: its bearings are decided on, its rear panel is off."""
WAITED = {"measured_v": "3"}


def first_step(browser, job=JOB):
    """Return the address and the fields of the step that stands first."""
    page = browser.get(f"/jobs/{job}/open").text
    step = re.search(r"<ul data-reach.*?</form>", page, re.S)
    if step is None:
        return None
    fields = dict(re.findall(r'name="(kind|what|to|operation|minutes)" value="([^"]*)"', step[0]))
    return re.search(r'action="([^"]+)"', step[0]).group(1), fields


def opened(browser, demo, until="", job=JOB):
    """Do what stands first until an operation stands first, or nothing; return what was done."""
    done = []
    while (step := first_step(browser, job)) and step[1].get("operation", "-") != until:
        waited = WAITED if step[1].get("what") == "charge" else {}
        answer = browser.form(step[0], seq(demo, job), **step[1], **waited)
        assert answer.status_code == 303, answer.text[-400:]
        done.append(step[1])
    return done


def closed(browser, demo, job=JOB):
    """Put everything back as *Close up* leads; return what went back, in order."""
    went = []
    while diagnose(demo, job).job.state.off:
        page = browser.get(f"/jobs/{job}/close").text
        turn = re.search(r'name="what" value="posture">\s*<input[^>]*value="(\w+)"', page)
        if turn:
            field = {"kind": "state_changed", "what": "posture", "to": turn[1]}
        else:
            name = re.search(r'name="operation" value="(\w+)"', page).group(1)
            field = {"kind": "put_back", "operation": name}
            went.append(name)
        answer = browser.form(f"/jobs/{job}/close/event", seq(demo, job), **field)
        assert answer.status_code == 303, (field, answer.text[-300:])
    return went


def picture() -> bytes:
    raw = io.BytesIO()
    Image.new("RGB", (60, 40), "white").save(raw, "JPEG")
    return raw.getvalue()


def test_the_plan_says_that_it_is_the_shortest_and_what_it_takes(reader):
    page = reader.get(f"/jobs/{JOB}/open").text
    assert "Shortest of all ways" in page
    assert "two people" in page
    assert re.search(r"4\s+tips", page)


def test_it_is_followed_to_the_bare_tub_and_back(browser, demo):
    done = opened(browser, demo)
    assert done[-1]["operation"] == "rear_bearing_out"
    assert {"kind": "soaked", "operation": "pulley_off", "minutes": "10.0"} in done
    fit = browser.get(f"/jobs/{JOB}/fit").text
    assert "data-locked" not in fit
    assert (
        browser.form(
            f"/jobs/{JOB}/fit/event", seq(demo, JOB), kind="repaired", repair="bearings.part"
        )
        .headers["location"]
        .endswith("/close")
    )
    assert len(closed(browser, demo)) > 20
    subjects = {d.subject for d in owed(diagnose(demo, JOB).job, diagnose(demo, JOB).machine)}
    assert {"leak_watch", "spin", "earth", "run"} <= subjects


@pytest.mark.parametrize(
    "sheet",
    SHEETS_OF_EVERY_KIND[1:],
)
def test_the_bearings_of_every_kind_come_out_and_go_in_again(browser, demo, sheet):
    words = {"age_years": "9", "place": "Slip", "words": "It roars in the spin like a plane."}
    words |= {"drum": "empty"}
    job = browser.form("/call", machine=sheet, **words).headers["location"].split("/")[2]
    machine = diagnose(demo, job).machine
    repair = machine.repairs[f"{machine.hub.component}.part"]
    chosen = {"kind": "decided", "choice": "repair", "repair": repair.id, "reason": "agreed"}
    decided = browser.form(f"/jobs/{job}/decide/event", seq(demo, job), **chosen)
    assert decided.status_code == 303
    assert browser.get(f"/jobs/{job}/strip").status_code == 200
    done = opened(browser, demo, job=job)
    assert set(repair.way.off) <= {step.get("operation") for step in done}
    fitted = {"kind": "repaired", "repair": repair.id}
    assert browser.form(f"/jobs/{job}/fit/event", seq(demo, job), **fitted).status_code == 303
    off = diagnose(demo, job).job.state.off
    assert sorted(closed(browser, demo, job)) == sorted(off)
    subjects = {d.subject for d in owed(diagnose(demo, job).job, machine)}
    assert {"leak_watch", "spin", "run"} <= subjects


def test_what_was_open_is_proved_whatever_was_repaired(browser, demo):
    opened(browser, demo, until="front_band")
    step, fields = first_step(browser)
    browser.form(step, seq(demo, JOB), **fields)
    answer = diagnose(demo, JOB)
    assert not answer.job.repairs
    assert "leak_watch" in {debt.subject for debt in owed(answer.job, answer.machine)}


def test_a_photo_and_a_tag_are_kept_and_shown_again_at_the_step_back(browser, demo):
    opened(browser, demo, until="top")
    data = {
        "token": browser.token(),
        "event_id": "a-photo-of-the-top",
        "seen": str(seq(demo, JOB)),
        "operation": "top",
        "tag": "salvage",
        "note": "scratched",
    }
    files = {"photo": ("top.jpg", picture(), "image/jpeg")}
    address = f"/jobs/{JOB}/open/off"
    assert browser.post(address, data=data, files=files, follow_redirects=False).status_code == 303
    [body] = [
        e.body for e in diagnose(demo, JOB).job.live if isinstance(e.body, TookOff) and e.body.photo
    ]
    assert browser.get(f"/photos/{body.photo}").status_code == 200
    assert "goes to the donor shelf" in browser.get(f"/jobs/{JOB}/open").text
    page = browser.get(f"/jobs/{JOB}/close").text
    assert page.index("salvage") > 0
    while "/photos/" not in (page := browser.get(f"/jobs/{JOB}/close").text):
        name = re.search(r'name="operation" value="(\w+)"', page).group(1)
        browser.form(f"/jobs/{JOB}/close/event", seq(demo, JOB), kind="put_back", operation=name)
    assert f"/photos/{body.photo}" in page


def test_a_photo_as_large_as_phones_take_is_kept_and_goes_out_with_the_job(browser, demo):
    opened(browser, demo, until="top")
    noisy = io.BytesIO()
    Image.effect_noise((3000, 2400), 90).convert("RGB").save(noisy, "JPEG", quality=92)
    assert 3_000_000 < len(noisy.getvalue()) < 12_000_000
    data = {"token": browser.token(), "event_id": "x" * 12, "seen": str(seq(demo, JOB))}
    files = {"photo": ("top.jpg", noisy.getvalue(), "image/jpeg")}
    address = f"/jobs/{JOB}/open/off"
    sent = browser.post(
        address, data={**data, "operation": "top"}, files=files, follow_redirects=False
    )
    assert sent.status_code == 303
    for place in (f"/jobs/{JOB}/export.zip", f"/api/v1/jobs/{JOB}/export.zip"):
        inside = zipfile.ZipFile(io.BytesIO(browser.get(place).content))
        [photo] = [name for name in inside.namelist() if name.startswith("photos/")]
        kept = photo.replace("photos", "/photos").removesuffix(".jpg")
        assert browser.get(kept).status_code == 200
        assert inside.read("job.json").startswith(b"{")


@pytest.mark.parametrize(
    ("raw", "status", "says"),
    [
        (b"not a picture at all", 422, "Found no picture"),
        (b"\xff" * 12_500_000, 422, "expected at most that"),
        (b"\xff" * 14_000_000, 413, ""),
    ],
)
def test_a_photo_that_is_none_or_too_large_is_said_and_nothing_is_lost(
    browser, demo, raw, status, says
):
    opened(browser, demo, until="top")
    before = seq(demo, JOB)
    data = {"token": browser.token(), "event_id": "x" * 12, "seen": str(before), "operation": "top"}
    files = {"photo": ("top.jpg", raw, "image/jpeg")}
    answer = browser.post(f"/jobs/{JOB}/open/off", data=data, files=files)
    assert answer.status_code == status
    assert says in answer.text
    assert seq(demo, JOB) == before


def test_a_screw_left_over_holds_the_hand_over_back_until_it_is_explained(browser, demo):
    opened(browser, demo, until="front_panel")
    last = diagnose(demo, JOB).job.state.off[-1]
    field = {"kind": "put_back", "operation": last, "left": "1"}
    browser.form(f"/jobs/{JOB}/close/event", seq(demo, JOB), **field)
    debts = {d.debt: d for d in owed(diagnose(demo, JOB).job, diagnose(demo, JOB).machine)}
    debt = debts["tray", last]
    assert not debt.settled
    assert debt.waivable
    assert "The tray is not empty: 1 left over" in browser.get(f"/jobs/{JOB}/close").text
    twice = browser.form(f"/jobs/{JOB}/close/event", seq(demo, JOB), **field)
    assert "It is not off, so it cannot go back" in twice.text
    refused = browser.form(f"/jobs/{JOB}/handover/event", seq(demo, JOB), kind="handed_over")
    assert refused.status_code != 303
    why = {"owed": "tray", "subject": last, "reason": "one too many came in the bag"}
    assert (
        browser.form(f"/jobs/{JOB}/proof/event", seq(demo, JOB), kind="waived", **why).status_code
        == 303
    )


def test_left_hand_threads_lengths_and_the_ladder_stand_at_their_step(browser, demo):
    opened(browser, demo, until="front_panel")
    page = browser.get(f"/jobs/{JOB}/open").text
    assert "4.2 x 13" in page
    assert "4.2 x 25" in page
    assert "It is stuck" in page
    assert "It drops when the last screw goes" in page
    step, fields = first_step(browser)
    browser.form(step, seq(demo, JOB), **fields)
    cell = browser.get(f"/jobs/{JOB}/open").text.split('data-cell="front_panel"')[1]
    assert cell.index("4.2 x 13") < cell.index("4.2 x 25")


def test_a_basket_comes_off_to_the_left(browser, demo):
    opened_ = browser.form(
        "/call", machine="torvane-alta-10", age_years="9", place="Slip", words="It roars."
    )
    number = opened_.headers["location"].split("/")[2]
    chosen = {"kind": "decided", "choice": "repair", "repair": "bearings.part", "reason": "agreed"}
    browser.form(f"/jobs/{number}/decide/event", seq(demo, number), **chosen)
    page = browser.get(f"/jobs/{number}/strip").text
    assert "Lift the basket out" in page
    assert "left-hand thread" in page
    assert "Two people" in page
    assert "Press the upper bearing in" in page


def test_what_soaks_has_its_clock_and_is_not_oiled_twice(browser, demo):
    opened(browser, demo, until="pulley_off")
    assert first_step(browser)[1]["operation"] == "pulley_off"
    browser.form(
        f"/jobs/{JOB}/open/event",
        seq(demo, JOB),
        kind="soaked",
        operation="pulley_off",
        minutes="10",
    )
    page = browser.get(f"/jobs/{JOB}/open").text
    assert re.search(r'x-data="soak"\s+data-minutes="\d', page)
    assert first_step(browser)[1]["operation"] != "pulley_off"
    assert "Oil it now, to take the drum pulley off" not in page


def test_two_ways_stand_side_by_side(browser, demo):
    decided = {"repair": "drain_pump.part", "reason": "agreed"}
    browser.form("/jobs/0412/decide/decide", seq(demo), **decided)
    page = browser.get("/jobs/0412/open").text
    assert "The ways compared" in page
    assert "Take the drain pump out by the front" in page
    assert "The bellows and its band are opened for it" in page


def test_nothing_is_printed_before_anything_is_decided(reader):
    assert reader.get("/jobs/0412/strip").status_code == 404


def test_programs_read_the_ways(reader):
    [way] = reader.get(f"/api/v1/jobs/{JOB}/strip").json()
    assert way["optimal"]
    assert sorted(way["back"]) == sorted([*way["there"], "rear_panel"])
    below, front = reader.get("/api/v1/jobs/0412/strip?repair=drain_pump.part").json()
    assert below["minutes"] < front["minutes"]
    assert reader.get("/api/v1/jobs/0412/strip?repair=none").status_code == 422


def test_what_will_not_come_off_is_planned_round_and_moves_after_all(browser, demo):
    """The pump of the houseboat comes out from below or by the front; with neither left it says so,
    and what moves after all is planned over again."""
    job, repair = "0412", "drain_pump.part"
    browser.form(f"/jobs/{job}/decide/decide", seq(demo, job), repair=repair, reason="agreed")
    ways = plan_of(demo, diagnose(demo, job), diagnose(demo, job).machine.repairs[repair]).ways
    below, front = (way.operations for way in ways)
    over = [
        next(n for n in way if n not in other) for way, other in ((below, front), (front, below))
    ]

    def say(operation, **more):
        field = {"kind": "stuck", "operation": operation, **more}
        return browser.form(f"/jobs/{job}/open/event", seq(demo, job), **field)

    assert say(over[0], note="rounded").status_code == 303
    page = browser.get(f"/jobs/{job}/open").text
    assert "The way goes round it" in page
    left = plan_of(demo, diagnose(demo, job), diagnose(demo, job).machine.repairs[repair])
    assert [way.operations for way in left.ways] == [front]
    assert not left.blocked
    assert say(over[1]).status_code == 303
    page = browser.get(f"/jobs/{job}/open").text
    assert "No way round it is left" in page
    assert "Decide again" in page
    assert say(over[0], moves="true").status_code == 303
    assert say(over[0], moves="true").status_code == 409
    assert "No way round it is left" not in browser.get(f"/jobs/{job}/open").text
    ledger = "".join(
        told(diagnose(demo, job).machine, e.body)[1] for e in diagnose(demo, job).job.events
    )
    assert "rounded" in ledger
    assert "it moves after all" in ledger


def test_what_comes_into_sight_is_answered_in_passing_and_moves_the_ranking(browser, demo):
    """The pump of the houseboat comes off: its rotor is turned in the hand, at the step itself."""
    job = "0412"
    browser.form(
        f"/jobs/{job}/decide/decide", seq(demo, job), repair="drain_pump.part", reason="agreed"
    )
    while "Now in sight" not in (page := browser.get(f"/jobs/{job}/open").text):
        step = first_step(browser, job)
        assert browser.form(step[0], seq(demo, job), **step[1]).status_code == 303
    box = page.split('aria-label="Now in sight"')[1].split("</form>")[0]
    check = re.search(r'name="check" value="(\w+)"', box)[1]
    answer = re.findall(r'name="outcome"\s+value="(\w+)"', box)[-1]
    before = diagnose(demo, job)
    last = before.job.state.off[-1]
    known = before.machine.checks[check]
    assert last in {*known.needs.off, *before.machine.out[known.in_hand or known.component]}
    assert known.measure is None
    fields = {"kind": "checked", "check": check, "outcome": answer}
    noted = browser.form(f"/jobs/{job}/open/event", seq(demo, job), **fields)

    assert noted.headers["location"].endswith("/open")
    assert diagnose(demo, job).ranking != before.ranking
    assert f'value="{check}"' not in browser.get(f"/jobs/{job}/open").text


def test_the_old_part_is_looked_at_first_and_moves_the_ranking(browser, demo):
    opened(browser, demo)
    page = browser.get(f"/jobs/{JOB}/fit").text
    assert "check=bearings_in_hand" in page
    assert "Replaced with it: shaft seal" in page
    assert "Rear bearing by its outer ring" in page
    assert "Reused if sound" in page
    before = dict(diagnose(demo, JOB).ranking)["bearings_worn"]
    check = diagnose(demo, JOB).machine.checks["bearings_in_hand"]
    sound = check.outcomes[0].id
    field = {"kind": "checked", "check": check.id, "outcome": sound}
    assert browser.form(f"/jobs/{JOB}/prove/event", seq(demo, JOB), **field).status_code == 303
    assert dict(diagnose(demo, JOB).ranking)["bearings_worn"] < before
    assert "First look at the old part" not in browser.get(f"/jobs/{JOB}/fit").text


def test_the_old_part_on_the_bench_moves_the_ranking_after_the_repair_too(browser, demo):
    page = browser.get("/jobs/0406/fit").text
    head, asked = page.split("is on the bench. What does it show?")
    answers = re.findall(r'name="outcome"\s+value="(\w+)"', asked.split("</form>")[0])
    form = head.rsplit("<form", 1)[1]
    fields = dict(re.findall(r'name="(kind|check|old_part_of)" value="([^"]*)"', form))
    before = diagnose(demo, "0406")
    repair = before.machine.repairs[before.job.repairs[-1].repair]
    assert before.machine.checks[fields["check"]].in_hand == repair.component
    stray = {**fields, "old_part_of": before.job.events[0].id}
    refused = browser.form("/jobs/0406/fit/event", seq(demo, "0406"), **stray, outcome=answers[0])
    assert "looks at a part that came out" in refused.text
    noted = browser.form("/jobs/0406/fit/event", seq(demo, "0406"), **fields, outcome=answers[0])
    assert noted.status_code == 303
    after = diagnose(demo, "0406")
    assert after.ranking != before.ranking
    assert "the old part, after it was changed" in browser.get("/jobs/0406/fit").text
    assert "on the bench. What" not in browser.get("/jobs/0406/proof").text


def test_make_safe_says_what_this_plan_wants_and_how_to_empty_it(browser, demo):
    page = browser.get(f"/jobs/{JOB}/safe").text
    isolation = page.split('aria-label="Isolation"')[1].split("</ol>")[0]
    assert isolation.index("Close both taps") < isolation.index("Let the stored charge go")
    assert "Fetch a second person" in isolation
    assert "Tip it back" not in isolation
    wet = browser.get("/jobs/0412/safe").text
    assert "Ways to get the water out" in wet
    assert wet.index("A wet vacuum") < wet.index("Bailed from above")
    assert "Ways to get the water out" not in page


def test_what_comes_first_is_done_at_the_fitting_as_well_oil_too(browser, demo):
    """The list of what comes first stands at *Fit* as at *Open up*: each of its buttons does what
    it says."""
    done = []
    while "It is oiled" not in done:
        page = browser.get(f"/jobs/{JOB}/fit").text
        form = re.search(r"<ul data-reach.*?</form>", page, re.S)[0]
        fields = dict(re.findall(r'name="(kind|what|to|operation|minutes)" value="([^"]*)"', form))
        waited = WAITED if fields.get("what") == "charge" else {}
        done.append(re.search(r"<button[^>]*>([^<]+)<", form)[1])
        sent = browser.form(f"/jobs/{JOB}/fit/event", seq(demo, JOB), **fields, **waited)
        assert sent.status_code == 303, (fields, sent.text[-300:])
    assert "soaks" in browser.get(f"/jobs/{JOB}/open").text


def test_what_is_only_slackened_says_so_and_has_no_cell_in_the_tray(browser, demo):
    opened(browser, demo, until="sump_off")
    assert "slacken only" in browser.get(f"/jobs/{JOB}/open").text
    step = first_step(browser)
    assert browser.form(step[0], seq(demo, JOB), **step[1]).status_code == 303
    page = browser.get(f"/jobs/{JOB}/open").text
    assert 'data-cell="damper' not in page
    assert 'data-cell="sump_off"' not in page
    assert 'data-cell="top"' in page


def test_a_machine_is_laid_down_as_its_kind_is_and_only_emptied_as_it_can_be(browser, demo):
    """A front loader has a filter to be emptied by and a glass that carries nothing; a stacked
    machine has neither, and wants three people."""
    bench = {
        "nembrio-f7": ("The filter", "lower edge of the glass", "Laid on its face", "drain_pump"),
        "sestra-torre": (None, "rim of the tub", "strapped", "gearcase"),
    }
    for sheet, (filtered, fullest, laid, part) in bench.items():
        words = {
            "age_years": "9",
            "place": "Slip",
            "words": "It does not drain, the water stays in.",
        }
        job = browser.form("/call", machine=sheet, **words).headers["location"].split("/")[2]
        live = browser.get(f"/jobs/{job}/safe").text
        assert fullest in live
        assert "by pulling harder" in live
        assert ("filter&#39;s cap" in live) == bool(filtered)
        chosen = {"kind": "decided", "choice": "repair", "repair": f"{part}.part"}
        decided = browser.form(
            f"/jobs/{job}/decide/event", seq(demo, job), **chosen, reason="agreed"
        )
        assert decided.status_code == 303
        page = browser.get(f"/jobs/{job}/safe").text
        assert laid in page
        assert laid in browser.get(f"/jobs/{job}/strip").text or laid == "Laid on its face"


def test_a_lock_is_not_defeated_on_a_live_machine(browser, demo):
    field = {"kind": "temporary", "what": "a striker in the lock", "interlock": "true"}
    refused = browser.form("/jobs/0418/safe/event", seq(demo, "0418"), **field, reason="to see it")
    assert "Pull the plug" in refused.text
    assert not diagnose(demo, "0418").job.temporary
    plain = {"kind": "temporary", "what": "tape on the harness", "reason": ""}
    assert browser.form("/jobs/0418/safe/event", seq(demo, "0418"), **plain).status_code == 303


def test_what_is_made_is_not_asked_for_again(browser, demo):
    fit = browser.get("/jobs/0406/fit").text
    assert "Not reached yet" not in fit
    assert "It is fitted<" not in fit
    assert "Done so far" in fit
    assert "It is made." in browser.get("/jobs/0406/open").text
    made = next(
        entry.event.id
        for entry in diagnose(demo, "0406").job.live
        if isinstance(entry.body, Repaired)
    )
    withdrawn = {"kind": "withdrawn", "event": made}
    browser.form("/jobs/0406/fit/event", seq(demo, "0406"), **withdrawn)
    assert "It is made." not in browser.get("/jobs/0406/open").text
