"""Every page route: what it shows, its empty state, its errors; every template gets what its typed
context promises."""

import re

import pytest

from bottega.app.job import answer as answering
from bottega.app.job.answer import diagnose
from bottega.core.job.stations import STATIONS

PAGES = [
    "/",
    "/?q=ondina",
    "/?q=nothing+at+all",
    "/call",
    "/shop",
    "/library",
    "/library/FB",
    "/library/FB/nembrio-f7",
    "/api/v1/docs",
]


@pytest.mark.parametrize("address", PAGES)
def test_plain_pages_answer(reader, address):
    page = reader.get(address)
    assert page.status_code == 200
    assert "<main" in page.text


@pytest.mark.parametrize("station", list(STATIONS))
def test_a_page_of_a_job_computes_no_answer_twice(browser, demo, monkeypatch, station):
    """Once when nothing is known of it, and not at all when it is looked at again."""
    made, reason = [], answering.plan
    monkeypatch.setattr(answering, "plan", lambda *of, **by: made.append(1) or reason(*of, **by))
    demo.answers.clear()
    demo.beliefs.clear()
    assert browser.get(f"/jobs/0412/{station}").status_code == 200
    assert len(made) == 1
    browser.get(f"/jobs/0412/{station}")
    assert len(made) == 1


@pytest.mark.parametrize("number", ["0391", "0398", "0403", "0406", "0410", "0412", "0414"])
@pytest.mark.parametrize("station", list(STATIONS))
def test_every_station_of_every_demo_job_answers(reader, number, station):
    page = reader.get(f"/jobs/{number}/{station}")
    assert page.status_code == 200
    assert f'data-number="{number}"' in page.text


def test_a_job_opens_where_it_stands(reader):
    assert (
        reader.get("/jobs/0412", follow_redirects=False).headers["location"] == "/jobs/0412/prove"
    )
    assert (
        reader.get("/jobs/0406", follow_redirects=False).headers["location"] == "/jobs/0406/proof"
    )


def test_htmx_gets_the_fragment_that_the_page_includes(reader):
    fragment = reader.get("/jobs/0412/prove", headers={"HX-Request": "true"})
    assert fragment.text.lstrip().startswith('<div id="job"')
    assert "<html" not in fragment.text


@pytest.mark.parametrize(
    "address",
    [
        "/nowhere",
        "/jobs/9999",
        "/jobs/9999/prove",
        "/jobs/0412/dance",
        "/library/FI/nembrio-f7",
        "/library/ZZ",
        "/library/FB?fault=ghost",
        "/library/FB?check=ghost&outcome=free",
        "/jobs/9999/report",
        "/jobs/9999/export",
    ],
)
def test_what_does_not_exist_is_a_404_page_in_our_own_words(reader, address):
    page = reader.get(address)
    assert page.status_code == 404
    assert "To the bench" in page.text


def test_empty_states_say_what_to_do_first(empty):
    assert "Take the first call" in empty.get("/").text
    assert "Nobody yet" not in empty.get("/shop").text
    assert "stand here at once" in empty.get("/call").text


def test_the_next_sheet_shows_chances_previews_and_runners(reader):
    page = reader.get("/jobs/0412/prove").text
    assert "Turn the pump rotor by hand" in page
    assert len(re.findall(r'class="outcome"', page)) == 4
    assert len(re.findall(r'role="img"\s+aria-label="Afterwards', page)) == 4
    assert len(re.findall(r'class="runner" href="/jobs/0412/prove\?check=', page)) == 4
    assert re.search(r"It tells .* apart", page)


def test_part_search_and_chosen_check(reader):
    part = reader.get("/jobs/0412/prove?part=drain_pump").text
    assert "Pushes" not in part
    assert "NB-4410-2" in part
    found = reader.get("/jobs/0412/prove?find=torch tipped").text
    assert "Look for drips and trails under the pump" in found
    assert "No check that is left mentions" in reader.get("/jobs/0412/prove?find=zeppelin").text
    reading = reader.get("/jobs/0412/prove?check=measure_pump_coil").text
    assert "Expected 165 to 205" in reading
    assert "Nembrio F7 sheet, page 3" in reading


def test_the_drawing_hatches_and_notes_what_is_suspected(reader, demo):
    page = reader.get("/jobs/0412/prove").text
    answer = diagnose(demo, "0412")
    pump = re.search(r'id="part-drain_pump" class="part is-(\w+)', page).group(1)
    assert pump == "cross"
    assert page.count('class="leader') == sum(
        p >= 0.03 for p in answer.belief.component_now().values()
    )


def test_the_library_answers_questions(reader):
    known = reader.get("/library/FB/nembrio-f7?fault=rotor_slips").text
    assert "How would I know?" in known
    assert "Turn the pump rotor by hand" in known
    could = reader.get("/library/FB/nembrio-f7?check=turn_rotor&outcome=free").text
    assert "What could it be?" in could
    assert "Drain pump: rotor slips" in could
    which = reader.get("/library/which?seen=front,rotor_back,-belt_back").text
    assert "front loader, direct drive" in which.lower()
    assert reader.get("/library/which?seen=wings").status_code == 422
    report = reader.get("/library/report").text
    assert "Every fault is found by some check" in report
    assert "Pellandra 400" in report


def test_the_report_and_the_file(reader):
    assert "Nothing wrong with the machine was found" in reader.get("/jobs/0391/report").text
    file = reader.get("/jobs/0412/export")
    assert file.headers["content-disposition"].endswith('"job-0412.json"')
    assert file.json()["format"] == "bottega-job"


@pytest.mark.parametrize("tab", ["next", "drawing", "ledger"])
def test_every_tab_of_the_phone_can_be_reached_without_a_script(reader, tab):
    page = reader.get("/jobs/0412/prove").text
    assert f'href="/jobs/0412/prove?tab={tab}"' in page
    shown = reader.get(f"/jobs/0412/prove?tab={tab}").text
    assert f'data-tab="{tab}"\n     data-number' in shown
    assert 'data-tab="next"\n     data-number' in reader.get("/jobs/0412/prove?tab=x").text
