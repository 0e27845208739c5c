"""The call: taken, previewed while it is typed, and sent back with what was typed."""

import re

import pytest

from bottega.app.job.answer import diagnose

CALL = {
    "machine": "nembrio-f7",
    "text": "It does not drain and hums",
    "age_years": "7",
    "place": "Quay",
    "customer": "",
    "history": "moved; new hose",
    "power": "on",
    "taps": "open",
    "water": "in",
    "arrival": "",
}


def test_a_call_is_taken_and_opened(browser, demo):
    answer = browser.form("/call", **CALL)
    assert answer.status_code == 303
    job = diagnose(demo, answer.headers["location"].rsplit("/", 1)[1]).job
    assert set(job.complaint.said) == {"says_water_stays", "says_hums"}
    assert job.opened.history == ("moved", "new hose")


def test_the_ranking_stands_while_the_call_is_typed(browser, demo):
    before = demo.log.numbers()
    page = browser.form("/call/preview", **{**CALL, "place": "", "age_years": ""})
    assert page.status_code == 200
    assert "Drain pump: rotor slips" in page.text
    assert "the visit comes to" in page.text
    assert demo.log.numbers() == before


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"age_years": "old"}, "age years"),
        ({"place": ""}, "place"),
        ({"machine": "ghost"}, "Which machine"),
        ({"machine": ""}, "Which machine"),
        ({"machine": "FB", "plate_volts": "9000"}, "volts"),
    ],
)
def test_a_bad_call_comes_back_with_what_was_typed(browser, demo, change, words):
    before = demo.log.numbers()
    page = browser.form("/call", **{**CALL, **change})
    assert page.status_code == 422
    assert words in page.text
    assert "It does not drain and hums" in page.text
    assert demo.log.numbers() == before


def ticked(page, name):
    found = re.findall(
        rf'<input type="checkbox"\s+name="{name}"\s+value="(\w+)"[^>]*?checked', page
    )
    return set(found)


def unseen(page):
    """Return the fields a form carries along unseen, as a browser sends them."""
    found = re.findall(r'name="((?:said|well)_\w+)"\s+value="([^"]*)"', page)
    return {name: [value for n, value in found if n == name] for name, _ in found}


def again(browser, page, text, said, *, well=()):
    fields = {**CALL, **unseen(page), "text": text, "said": list(said), "well": list(well)}
    return browser.form("/call/preview", **fields).text


def test_ticks_and_unticks_win_until_the_text_is_rewritten_against_them(browser):
    text = "It hums and the water stays, it spins well"
    page = browser.form("/call/preview", **{**CALL, "text": text}).text
    assert ticked(page, "said") == {"says_hums", "says_water_stays"}
    assert ticked(page, "well") == {"says_no_spin"}
    page = again(browser, page, text, ["says_water_stays", "says_cold"], well=["says_no_spin"])
    assert ticked(page, "said") == {"says_water_stays", "says_cold"}
    page = again(browser, page, text + " today", ticked(page, "said"), well=[])
    assert ticked(page, "said") == {"says_water_stays", "says_cold"}
    assert ticked(page, "well") == set()
    page = again(browser, page, "It heats well and is humming", ticked(page, "said"))
    assert ticked(page, "said") == {"says_hums"}


def test_what_was_unticked_is_not_noted_when_the_job_is_opened(browser, demo):
    page = browser.form("/call/preview", **CALL).text
    fields = {**CALL, **unseen(page), "said": [], "often": "now and then"}
    number = browser.form("/call", **fields).headers["location"].rsplit("/", 1)[1]
    complaint = diagnose(demo, number).job.complaint
    assert complaint.said == ()
    assert complaint.text == CALL["text"]
    assert complaint.often == "now and then"


def test_what_goes_well_and_how_often_are_noted_and_told(browser, demo):
    text = "It drains well, but every time it trips the breaker."
    number = browser.form("/call", **{**CALL, "text": text}).headers["location"].rsplit("/", 1)[1]
    complaint = diagnose(demo, number).job.complaint
    assert complaint.said == ("says_trips",)
    assert complaint.well == ("says_water_stays",)
    page = browser.get(f"/jobs/{number}/prove").text
    assert "not so: water stays in the drum; every time" in page
    station = browser.get(f"/jobs/{number}/call").text
    assert re.search(r"Not so</span>: *water stays in the drum", station)
    assert re.search(r"How often</span>: *every time", station)


def test_what_nobody_made_out_is_named_and_the_whole_list_stands_open(browser, f7):
    page = browser.form("/call/preview", **{**CALL, "text": "The gnomes are angry"}).text
    assert "Not made out: “the gnomes are angry”" in page
    for complaint in f7.complaints.values():
        assert f'value="{complaint.id}"' in page


def test_a_machine_of_unknown_age_is_a_mixture_of_ages(browser, demo):
    answer = browser.form("/call", **{**CALL, "age_years": ""})
    number = answer.headers["location"].rsplit("/", 1)[1]
    assert diagnose(demo, number).job.opened.age_years is None
    assert "age unknown" in browser.get(f"/jobs/{number}/call").text


def test_no_machine_is_chosen_before_somebody_does_and_the_plate_suggests_one(browser):
    page = browser.get("/call").text
    assert re.search(r'<option value=""\s+selected>\s*Choose the machine', page)
    plate = {"machine": "", "plate_heater_w": "1750", "plate_spin_rpm": "1200"}
    page = browser.form("/call/preview", **{**CALL, **plate}).text
    assert "The rating plate fits" in page
    assert 'name="choose"' in page
    chosen = browser.form("/call/preview", **{**CALL, **plate, "choose": "nembrio-f7"}).text
    assert re.search(r'value="nembrio-f7"\s+selected', chosen)
    assert "The rating plate fits" not in chosen


@pytest.mark.parametrize(
    ("text", "status", "words"),
    [
        ("", 303, ""),
        ("word " * 10_000, 422, "text"),
        ("Es schleudert nicht. Elle fuit. It does not spin.", 303, ""),
        ("<table><tr><td>It&nbsp;leaks</td></tr></table><script>x</script>", 303, ""),
    ],
)
def test_any_text_is_taken_or_refused_in_its_place(browser, demo, text, status, words):
    answer = browser.form("/call", **{**CALL, "text": text})
    assert answer.status_code == status
    assert words in answer.text
    if status == 422:
        assert text.strip() in answer.text


def test_an_age_of_nine_hundred_is_refused_with_everything_kept(browser):
    answer = browser.form("/call", **{**CALL, "age_years": "900"})
    assert answer.status_code == 422
    assert 'value="900"' in answer.text
    assert CALL["text"] in answer.text


def test_a_code_in_the_words_is_offered_and_noted_only_when_it_is_ticked(browser, demo):
    call = {**CALL, "machine": "virgola-asciutta-7", "text": "The water stays in, it shows 31."}
    page = browser.form("/call/preview", **call).text
    assert re.search(r'name="codes"\s+value="31"', page)
    assert ticked(page, "codes") == set()
    number = browser.form("/call", **call).headers["location"].rsplit("/", 1)[1]
    assert told_codes(demo, number) == []
    told = browser.form("/call", **call, codes=["31"]).headers["location"].rsplit("/", 1)[1]
    assert told_codes(demo, told) == [("31",)]
    assert diagnose(demo, told).job.panel is None
    assert "as the customer tells it" in browser.get(f"/jobs/{told}/panel").text


def test_a_question_is_answered_on_the_call_and_changes_the_ranking_at_once(browser, demo):
    before = browser.form("/call/preview", **CALL).text
    name = re.search(r'name="(asked\.\w+)"\s+value="(\w[^"]*)"', before)
    asked = {name[1]: name[2]}
    page = browser.form("/call/preview", **CALL, **asked).text
    assert re.search(
        rf'name="{re.escape(name[1])}"\s+value="{re.escape(name[2])}"[^>]*checked', page
    )
    assert ranking(page) != ranking(before)
    number = browser.form("/call", **CALL, **asked).headers["location"].rsplit("/", 1)[1]
    bodies = [entry.body for entry in diagnose(demo, number).job.live]
    checked = [(body.check, body.outcome) for body in bodies if body.kind == "checked"]
    assert checked == [(name[1].removeprefix("asked."), name[2])]


def told_codes(demo, number):
    bodies = [entry.body for entry in diagnose(demo, number).job.live]
    return [body.codes for body in bodies if body.kind == "panel_read"]


def ranking(page):
    return re.search(r"What it may be</h2>(.*?)<h3>", page, re.DOTALL)[1]


@pytest.mark.parametrize(
    ("asked", "told"),
    [
        ({"asked.open_filter": "clear"}, "expected a question to the customer"),
        ({"asked.no_such": "x"}, "expected a question to the customer"),
        ({"asked.ask_changed": "the moon"}, "the moon"),
    ],
)
def test_an_answer_nobody_can_give_on_the_phone_opens_no_job(browser, demo, asked, told):
    before = demo.log.numbers()
    page = browser.form("/call", **CALL, **asked)
    assert page.status_code == 422
    assert told in page.text
    assert demo.log.numbers() == before


def test_what_the_customer_does_not_know_says_nothing_and_is_not_asked_again(browser, demo):
    before = browser.form("/call/preview", **CALL).text
    name = re.search(r'name="(asked\.\w+)"', before)[1]
    asked = {name: "inconclusive"}
    page = browser.form("/call/preview", **CALL, **asked).text
    assert ranking(page) == ranking(before)
    number = browser.form("/call", **CALL, **asked).headers["location"].rsplit("/", 1)[1]
    answer = diagnose(demo, number)
    assert name.removeprefix("asked.") not in [step.check.id for step in answer.plan.steps]
    assert "Not known" in browser.get(f"/jobs/{number}/prove").text
