"""Every page route: what it shows, its empty state, its errors; every template gets what its typed context promises."""

import re
from dataclasses import fields

import pytest
from jinja2 import meta

from bottega.app.diagnosing import diagnose
from bottega.core.job.proofs import STATIONS
from bottega.web import bench, call, jobpage, library, report, sheets, shop, thinking
from bottega.web.rendering import TEMPLATES, make_environment
from bottega.web.text import install_filters

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


@pytest.mark.parametrize("number", ["0391", "0398", "0403", "0406", "0410", "0412", "0414"])
@pytest.mark.parametrize("station", [key for key, _ in STATIONS])
def test_every_station_of_every_demo_job_answers(reader, number, station):
    page = reader.get(f"/jobs/{number}/{station}")
    assert page.status_code == 200
    assert f'data-number="{number}"' in page.text


def test_a_job_opens_where_it_stands(reader):
    assert reader.get("/jobs/0412", follow_redirects=False).headers["location"] == "/jobs/0412/prove"
    assert reader.get("/jobs/0406", follow_redirects=False).headers["location"] == "/jobs/0406/proof"


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
        "/library/FB?seen=ghost:free",
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
    assert page.count('role="img" aria-label="Afterwards') == 4
    assert len(re.findall(r'class="runner" href="/jobs/0412/prove\?check=', page)) == 4
    assert "It parts" in page


def test_part_search_and_chosen_check(reader):
    part = reader.get("/jobs/0412/prove?part=drain_pump").text
    assert "Pushes" not in part
    assert "NB-4410-2" in part
    found = reader.get("/jobs/0412/prove?find=torch tipped").text
    assert "Look for drips and trails under the pump" in found
    assert "No open check holds" in reader.get("/jobs/0412/prove?find=zeppelin").text
    reading = reader.get("/jobs/0412/prove?check=measure_pump_coil").text
    assert "Expected 165 to 205" in reading
    assert "Nembrio F7 sheet, page 3" in reading


def test_the_drawing_hatches_and_notes_what_is_suspected(reader, demo):
    page = reader.get("/jobs/0412/prove").text
    answer = diagnose(demo, "0412")
    pump = re.search(r'id="part-drain_pump" class="part is-(\w+)', page).group(1)
    assert pump == "cross"
    assert page.count('class="leader') == sum(p >= 0.03 for p in answer.belief.component_now().values())


def test_the_library_answers_questions(reader):
    known = reader.get("/library/FB/nembrio-f7?fault=rotor_slips").text
    assert "How would I know?" in known
    assert "Turn the pump rotor by hand" in known
    could = reader.get("/library/FB/nembrio-f7?seen=turn_rotor:free").text
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


CONTEXTS = [
    ("bench/page.html", bench.BenchPage),
    ("call/page.html", call.CallPage),
    ("job/page.html", jobpage.JobPage),
    ("thinking/page.html", thinking.ThinkingPage),
    ("compare/page.html", thinking.ComparePage),
    ("library/page.html", library.LibraryPage),
    ("library/machine.html", library.MachinePage),
    ("library/which.html", library.KeyPage),
    ("library/report.html", library.LibraryReport),
    ("library/new.html", sheets.NewSheetPage),
    ("library/edit.html", sheets.EditPage),
    ("library/import.html", sheets.ImportPage),
    ("report/page.html", report.ReportPage),
    ("shop/page.html", shop.ShopPage),
]
EVERYWHERE = {
    "token",
    "author",
    "members",
    "theme",
    "shop",
    "now",
    "here",
    "new_id",
    "short_day",
    "fault_title",
    "thumbnail",
    "page",
    "q",
}


def read_names(environment, template, seen):
    """Return the names a template and all it includes read and do not set."""
    if template in seen:
        return set()
    seen.add(template)
    source = (TEMPLATES / template).read_text(encoding="utf-8")
    tree = environment.parse(source)
    names = meta.find_undeclared_variables(tree)
    for name in re.findall(r'{%-? (?:include|extends) "([^"]+)" ?%}', source):
        names |= read_names(environment, name, seen)
    if '"job/_" ~ sheet' in source:
        for sheet in [key for key, _ in STATIONS] + ["part", "mark"]:
            names |= read_names(environment, f"job/_{sheet}.html", seen)
    if "include drawing.template" in source:
        names |= read_names(environment, "drawings/FB.svg", seen)
    return names


@pytest.mark.parametrize(("template", "context"), CONTEXTS)
def test_contexts_and_templates_match_both_ways(template, context):
    environment = make_environment()
    install_filters(environment)
    seen: set[str] = set()
    read = read_names(environment, template, seen)
    given = {field.name for field in fields(context)}
    local = {
        "f",
        "base",
        "link",
        "viewbox",
        "places",
        "drawing",
        "d",
        "loading",
        "answer",
        "outcome",
        "step",
        "lane",
        "sheet",
        "error",
        "ns",
        "w",
        "lead",
        "last",
        "drive",
        "dryer",
        "panel",
        "nth",
        "unit",
        "pump_x",
        "to",
        "so_far",
        "first",
        "window",
    }
    assert read - given - EVERYWHERE - local == set()
    assert given - read - {"page", "keep"} == set()
