"""Cases from outside, held against the engine."""

import pytest

from bottega.app.errors import BadValue
from bottega.benchmark.cases import (
    CASES,
    Case,
    bench_cases,
    bodies_of,
    machine_for,
    play_case,
    read_cases,
)

COIL = {
    "id": "coil",
    "archetype": "FB",
    "age_years": 7,
    "complaint": "It does not drain.",
    "said": ["says_water_stays"],
    "findings": [
        {
            "what": "the coil",
            "outcome": "open",
            "as": [{"kind": "check", "id": "measure_pump_coil", "outcome": "open"}],
        },
        {"what": "the moon", "outcome": "full", "gap": "no check looks at the moon"},
    ],
    "half": 0,
    "truth": ["the coil"],
    "truth_ids": ["pump_coil_open"],
    "accept_top": ["drain_pump"],
    "must_not_top": ["board"],
    "best_next": [{"words": "measure it", "checks": ["measure_pump_coil"]}],
    "why": "An open coil pumps nothing.",
}


def test_every_case_speaks_in_words_the_library_knows(shelf):
    for case in read_cases(CASES):
        machine = machine_for(case)
        parts = {*case.accept_top, *case.must_not_top}
        assert parts <= machine.components.keys(), case.id
        assert set(case.truth_ids) <= machine.faults.keys(), case.id
        assert set(case.said) <= machine.complaints.keys(), case.id
        assert {c for one in case.best_next for c in one.checks} <= machine.checks.keys(), case.id
        for body in bodies_of(case, machine, case.findings):
            if body.kind == "checked":
                outcomes = {one.id for one in machine.checks[body.check].outcomes}
                assert body.outcome in outcomes, (case.id, body.check)
            elif body.kind == "panel_read":
                assert set(body.codes) <= machine.codes.keys(), case.id


def test_a_case_is_right_where_what_was_so_leads_and_harmful_where_it_must_not():
    right = play_case(Case.model_validate(COIL))
    assert (right.top, right.harmful) == (True, False)
    assert right.first.startswith("pump_coil_open")
    harmed = {**COIL, "accept_top": ["board"], "must_not_top": ["drain_pump"]}
    wrong = play_case(Case.model_validate(harmed))
    assert (wrong.top, wrong.harmful) == (False, True)


def test_what_only_a_part_can_be_said_of_counts_half_and_a_gap_nothing():
    bench = bench_cases([Case.model_validate(COIL)])
    assert bench.expressible == 0.5
    part = {**COIL, "findings": [{**COIL["findings"][0], "lost": "how much"}]}
    assert bench_cases([Case.model_validate(part)]).expressible == 0.5


@pytest.mark.parametrize("text", ["", "- {id: 1}", "a: [", "1", "- id: x\n  surprise: 1"])
def test_a_file_that_holds_no_cases_says_so(tmp_path, text):
    path = tmp_path / "cases.yaml"
    path.write_text(text)
    with pytest.raises(BadValue, match="Found no cases"):
        read_cases(path)
