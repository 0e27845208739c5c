"""What lies over a drawing: the way to a part, marks, layers; and the pages beside the job."""

import re
from itertools import pairwise

import pytest

from bottega.app.job.answer import diagnose
from bottega.core.machine.reach import Reaching
from bottega.core.machine.state import MachineState
from bottega.web.drawing.layers import layers_of
from bottega.web.drawing.overlay import APART, NEXT_STOPS, glyphs_of, way_to
from bottega.web.thinking.routes import BELIEF_BAR, bands


@pytest.mark.parametrize("archetype", ["FB", "FD", "FI", "WD", "TS", "TD", "TG", "SL"])
def test_every_way_ends_at_its_part_and_its_stops_stay_on_the_drawing(shelf, archetype):
    machine = shelf.machine(archetype)
    reaching = Reaching(machine, shelf.tables)
    for name, component in machine.components.items():
        reach = reaching.reach(MachineState(), component.reach)
        way = way_to(machine, reach, name)
        if not reach.steps:
            assert way is None
            continue
        assert way.end == (machine.places[name].x, machine.places[name].y)
        assert len(way.stops) <= NEXT_STOPS
        assert [stop.number for stop in way.stops] == sorted({stop.number for stop in way.stops})
        assert all(0 <= stop.x <= 800 and 0 <= stop.y <= 412 for stop in way.stops)


def test_marks_never_lie_on_each_other(demo):
    glyphs = glyphs_of(diagnose(demo, "0409"))
    assert [glyph.kind for glyph in glyphs] == ["water"]
    assert glyphs[0].old
    crowded = glyphs_of(diagnose(demo, "0403"))
    assert {"noise", "water"} <= {glyph.kind for glyph in crowded}
    for n, one in enumerate(crowded):
        for other in crowded[n + 1 :]:
            assert abs(one.x - other.x) >= APART - 1e-9 or abs(one.y - other.y) >= APART


def test_layers_show_what_is_off_and_number_the_way(demo):
    answer = diagnose(demo, "0403")
    reach = answer.reaching.reach(answer.job.state, answer.machine.components["bearings"].reach)
    layers = {layer.operation: layer for layer in layers_of(answer, reach).layers}
    assert set(layers) == set(answer.machine.operations)
    assert [name for name, layer in layers.items() if layer.off] == list(answer.job.state.off)
    wanted = [step.to for step in reach.steps if step.kind == "operation"]
    assert [layers[name].step for name in wanted] == list(range(1, len(wanted) + 1))
    for name, layer in layers.items():
        assert all(layers[under].y < layer.y for under in answer.machine.operations[name].after)


def test_shares_fill_the_bar_whatever_they_sum_to():
    for shares in ((0.2, 0.1, 0.0, 0.0, 0.0, 0.6, 0.1), (0.99, 0.58, 0.0, 0.0, 0.0, 0.0, 0.0)):
        found = bands(shares)
        assert sum(band.width for band in found) == pytest.approx(BELIEF_BAR)
        assert all(b.x == pytest.approx(a.x + a.width) for a, b in pairwise(found))


def test_the_pages_beside_the_job(reader):
    thinking = reader.get("/jobs/0403/thinking").text
    assert thinking.count('class="thought"') >= 6
    assert "Before anything was said" in thinking
    assert "Before" in reader.get("/jobs/0397/compare").text
    assert "Job 0408" in reader.get("/jobs/0414/compare").text
    assert "Nothing to hold it against yet" in reader.get("/jobs/0394/compare").text
    assert reader.get("/jobs/0412/compare?against=before").status_code == 404
    assert reader.get("/jobs/0412/compare?against=9999").status_code == 404


def test_the_ledger_weighs_for_any_fault_chosen(reader):
    own = reader.get("/jobs/0412/prove").text
    other = reader.get("/jobs/0412/prove?weigh=bearings_worn").text
    assert re.search(r'value="bearings_worn" selected', other)
    weights = [re.findall(r"([+-±]\d+)&thinsp;dB", page) for page in (own, other)]
    assert weights[0] != weights[1]


def test_a_mark_far_off_the_drawing_is_refused(reader):
    assert reader.get("/jobs/0412/prove?mark=drain_pump&mx=300&my=200").status_code == 200
    assert reader.get("/jobs/0412/prove?mark=drain_pump&mx=-5&my=200").status_code == 422


def test_every_answer_says_how_long_it_took(reader):
    assert re.fullmatch(r"app;dur=\d+\.\d", reader.get("/jobs/0412/prove").headers["server-timing"])


def test_nobody_watches_a_job_that_does_not_exist(reader):
    assert reader.get("/jobs/9999/live?seen=1").status_code == 404
    assert reader.get("/jobs/0412/live?seen=-1").status_code == 422
