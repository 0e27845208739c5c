"""One model's name, several machines: the job is moved to the one that stands there; and what the
programmes do by design stands beside the complaint."""

import pytest
from tests.conftest import new_id
from tests.web.conftest import seq

from bottega.app.call.call import Call, Words, open_job
from bottega.app.job.answer import diagnose
from bottega.app.job.record import parse_body, record
from bottega.app.job.variants import variants_of

FIRST, LATER = "nembrio-f7", "nembrio-f7-white"


@pytest.fixture
def number(demo):
    call = Call(machine=FIRST, age_years=6, place="Quay", power="off", water="out")
    words = Words("The programme takes far too long.")
    return open_job(demo, call, words, "Ilaria Venn", event_id=new_id()).number


@pytest.mark.parametrize("station", ["call", "safe"])
def test_it_is_this_one_moves_the_job_and_its_windows(browser, demo, number, station):
    page = browser.get(f"/jobs/{number}/{station}").text
    assert "Which one is it?" in page
    assert page.count("taken to be this") == 1
    (other,) = [c for c in variants_of(demo, diagnose(demo, number).machine) if not c.here]
    done = browser.form(
        f"/jobs/{number}/{station}/event",
        seq(demo, number),
        kind="rebased",
        revision=other.revision,
        sheet=other.sheet,
    )
    assert done.status_code == 303
    answer = diagnose(demo, number)
    assert (answer.machine.sheet, answer.machine.variant.name) == (LATER, "white plug")
    reading = browser.get(f"/jobs/{number}/prove?check=measure_pump_coil").text
    assert "118 to 152" in reading
    assert "tongue up" in reading
    assert "Serial from 30 000" in reading


def test_a_model_that_comes_in_one_asks_nothing(browser, demo):
    call = Call(machine="nembrio-f9", age_years=6, place="Quay", power="off", water="out")
    other = open_job(demo, call, Words("It hums."), "Ilaria Venn", event_id=new_id()).number
    assert "Which one is it?" not in browser.get(f"/jobs/{other}/call").text
    assert variants_of(demo, demo.machine("FB", None)) == []


def test_both_are_offered_at_the_call_by_their_names(browser):
    page = browser.get("/call").text
    assert "Nembrio F7, grey plug" in page
    assert "Nembrio F7, white plug" in page


def test_is_that_a_fault_is_answered_at_the_call_and_beside_the_card(browser, demo, number):
    design = "three hours and more are meant"
    heard = {"machine": FIRST, "text": "The programme takes far too long.", "place": "Quay"}
    for page in (
        browser.form("/call/preview", None, **heard).text,
        browser.get(f"/jobs/{number}/call").text,
        browser.get(f"/jobs/{number}/prove?check=look_programme_card").text,
    ):
        assert "Is that a fault? By design" in page
        assert design in page
    card = browser.get(f"/jobs/{number}/prove?check=time_programme").text
    assert "205" in card or "3 h 25" in card
    assert "By design" not in browser.get(f"/jobs/{number}/prove?check=turn_rotor").text


def test_without_a_sheet_the_card_on_the_machine_says_it(browser, demo):
    call = Call(machine="TS", age_years=6, place="Quay", power="off", water="out")
    other = open_job(
        demo, call, Words("It takes far too long."), "Ilaria Venn", event_id=new_id()
    ).number
    page = browser.get(f"/jobs/{other}/prove?check=look_programme_card").text
    assert "the card on the machine does" in page
    assert "Is that a fault?" not in page


def test_the_library_shows_the_programmes_and_how_sure_a_figure_is(browser):
    page = browser.get(f"/library/FB/{LATER}").text
    assert "Saving 40-60" in page
    assert "ten litres" in page
    assert "in 10 000 machine-years, guessed" in page


def test_a_reading_judged_by_the_others_window_is_named_until_it_is_entered_again(
    browser, demo, number
):
    def read(typed):
        return browser.form(
            f"/jobs/{number}/prove/reading",
            seq(demo, number),
            check="measure_pump_coil",
            typed=typed,
            unit="ohm",
        )

    for operation in ("filter_flap", "filter_cap"):
        off = {"kind": "took_off", "operation": operation}
        record(demo, number, parse_body(off), "Ilaria Venn", event_id=new_id())
    assert read("135").status_code == 303
    named = "Judged by another window"
    assert named not in browser.get(f"/jobs/{number}/prove").text
    (other,) = [c for c in variants_of(demo, diagnose(demo, number).machine) if not c.here]
    move = {"kind": "rebased", "revision": other.revision, "sheet": other.sheet}
    record(demo, number, parse_body(move), "Ilaria Venn", event_id=new_id())
    page = browser.get(f"/jobs/{number}/prove").text
    assert named in page
    assert "prove?check=measure_pump_coil" in page
    assert read("135").status_code == 303
    assert named not in browser.get(f"/jobs/{number}/prove").text


def test_the_variants_own_pump_is_proposed_and_priced(shelf):
    """The pump with the plug that this variant has, not that of the other."""
    for sheet, number, price in (
        ("nembrio-f7", "NB-4410", 44),
        ("nembrio-f7-white", "NB-4410-2", 47),
    ):
        machine = shelf.machine("FB", sheet)
        assert machine.part_numbers["drain_pump"][0].number == number
        assert machine.parts["drain_pump"].price_eur == price
        assert machine.repairs["drain_pump.part"].price_eur == price


@pytest.mark.parametrize(
    ("serial", "says"), [("45 112", True), ("N-029999", False), ("30000", True), ("", False)]
)
def test_a_serial_that_is_of_another_variant_is_said_and_put_right_with_one_press(
    browser, demo, number, serial, says
):
    if serial:
        record(
            demo,
            number,
            parse_body({"kind": "identified", "serial": serial}),
            "Pia",
            event_id=new_id(),
        )
    page = browser.get(f"/jobs/{number}/prove").text
    assert ("is of the variant" in page) == says
    if not says:
        return
    (white,) = [c for c in variants_of(demo, diagnose(demo, number).machine) if not c.here]
    moved = {"kind": "rebased", "revision": white.revision, "sheet": white.sheet}
    assert (
        browser.form(f"/jobs/{number}/prove/event", seq(demo, number), **moved).status_code == 303
    )
    assert "is of the variant" not in browser.get(f"/jobs/{number}/prove").text


def test_what_tells_a_variant_is_what_its_list_of_screws_says(shelf):
    heads = {"six hexagon screws": (6, "hexagon"), "seven star screws": (7, "star")}
    for sheet in ("nembrio-f7", "nembrio-f7-white"):
        machine = shelf.machine("FB", sheet)
        (told,) = [heads[words] for words in heads if words in machine.variant.tell]
        (screws,) = machine.operations["rear_panel"].fasteners
        assert (screws.count, screws.head.split()[0]) == told
