"""Made-up patients answer like a machine with their fault."""

from random import Random

import pytest

from bottega.benchmark.patient import drawn, typical


def test_a_patient_answers_like_a_machine_with_its_fault(f7):
    patient = typical(f7, ("rotor_slips",))
    assert patient.answer(f7.checks["turn_rotor"]) == "free"
    assert patient.answer(f7.checks["measure_pump_coil"]) == "in band"
    assert "3-2" in patient.codes()
    sound = typical(f7, ())
    assert sound.complaints() == []
    assert sound.codes() == []


def test_drawn_patients_follow_the_chances_of_the_library(f7):
    rng = Random(4)
    states = [drawn(f7, ("rotor_slips",), rng).states["rotor_feel"] for _ in range(400)]
    chances = f7.faults["rotor_slips"].effects["rotor_feel"]
    likely = max(range(len(chances)), key=lambda k: chances[k])
    assert states.count(likely) / 400 == pytest.approx(chances[likely], abs=0.06)
