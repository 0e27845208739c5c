"""Evidence that cannot be: as few findings as brute force over all subsets would, and never in
silence."""

from dataclasses import replace
from itertools import combinations
from random import Random

import pytest
from tests.core.diagnosis.brute import fault_sets, likelihood
from tests.core.diagnosis.small import random_evidence
from tests.engine import model_of

from bottega.benchmark.reduced import random_machine
from bottega.core.diagnosis.evidence import Evidence
from bottega.core.diagnosis.impossible import make_sense, odd_findings
from bottega.core.diagnosis.infer import ImpossibleEvidence, infer
from bottega.core.diagnosis.prior import prior


def sharpened(evidence: Evidence, seed: int) -> Evidence:
    """Return the evidence with findings that allow of one state only, so that they can exclude each
    other."""
    rng, sharp = Random(seed), []
    for finding in evidence.findings:
        k = rng.randrange(len(finding.likelihood))
        chances = tuple(p if n == k else 0.0 for n, p in enumerate(finding.likelihood))
        sharp.append(replace(finding, likelihood=chances, repeatability=1.0))
    return Evidence(tuple(sharp), evidence.removals)


def possible(machine, findings):
    told = Evidence(tuple(findings))
    return any(likelihood(machine, [held], told) > 0 for held in fault_sets(machine))


@pytest.mark.parametrize("seed", range(25))
def test_as_few_go_as_can(shelf, seed):
    machine = random_machine(seed, faults=4)
    evidence = sharpened(random_evidence(machine, seed, 6), seed)
    model = model_of(machine)
    before = prior(model, 6, shelf.tables.engine)
    odd = odd_findings(model, before, evidence)
    least = next(
        count
        for count in range(len(evidence.findings) + 1)
        for gone in combinations(evidence.findings, count)
        if possible(machine, [f for f in evidence.findings if f not in gone])
    )
    assert len(odd) == least
    sense = make_sense(model, before, evidence)
    assert sense.odd == odd
    assert sense.belief.was.sum() == pytest.approx(1)


def test_some_of_them_cannot_be(shelf):
    """So that the test above means something."""
    impossible = 0
    for seed in range(25):
        machine = random_machine(seed, faults=4)
        model = model_of(machine)
        before = prior(model, 6, shelf.tables.engine)
        try:
            infer(model, before, sharpened(random_evidence(machine, seed, 6), seed))
        except ImpossibleEvidence:
            impossible += 1
    assert impossible > 8


@pytest.mark.parametrize("seed", range(25))
def test_as_few_go_as_can_where_many_speak_of_one_effect(shelf, monkeypatch, seed):
    """What goes state by state is as little as what goes by trying every choice."""
    monkeypatch.setattr("bottega.core.diagnosis.impossible.MOST_CHOSEN_AMONG", 0)
    machine = random_machine(seed, faults=4)
    sharp = sharpened(random_evidence(machine, seed, 6), seed).findings
    evidence = Evidence(tuple(replace(f, repeatability=0.9, epoch=0) for f in sharp))
    model = model_of(machine)
    odd = odd_findings(model, prior(model, 6, shelf.tables.engine), evidence)
    least = next(
        count
        for count in range(len(evidence.findings) + 1)
        for gone in combinations(evidence.findings, count)
        if possible(machine, [f for f in evidence.findings if f not in gone])
    )
    assert len(odd) == least


def test_hundreds_that_contradict_each_other_are_named_in_short(shelf):
    """Each choice of which to believe would be one of millions: it is made state by state."""
    machine = random_machine(3, faults=4)
    model = model_of(machine)
    few = sharpened(random_evidence(machine, 3, 6), 3).findings
    many = [replace(f, event=f"{f.event}-{n}", repeatability=0.5) for n in range(100) for f in few]
    evidence = Evidence(tuple(many))
    sense = make_sense(model, prior(model, 6, shelf.tables.engine), evidence)
    assert 0 < len(sense.odd) < len(many)
    with pytest.raises(ImpossibleEvidence, match=f"found {len(many) - 8} findings, ") as caught:
        infer(model, prior(model, 6, shelf.tables.engine), evidence)
    assert len(str(caught.value)) < 600
