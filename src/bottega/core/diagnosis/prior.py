"""The prior of every fault set of a machine type: how often its faults come at an age, alone,
together and from each other."""

from typing import NamedTuple

import numpy as np

from bottega.core.diagnosis.kept_answers import kept
from bottega.core.diagnosis.model import DiagnosisModel, Floats
from bottega.core.library.tables import EngineTable


def prior(
    model: DiagnosisModel,
    age_years: float | None,
    engine: EngineTable,
    scale: dict[str, float] | None = None,
) -> Floats:
    """Return the prior of every fault set at an age in years, shape (H,), summing to one.

    None stands for an age nobody knows: the mean over the ages the engine's table gives for that,
    each with its share.
    """
    ages = {age_years: 1.0} if age_years is not None else engine.unknown_ages
    whole, own = sum(ages.values()), tuple(sorted((scale or {}).items()))
    hazard = _Hazard(
        engine.youngest_years,
        engine.reference_age_years,
        engine.horizon_years,
        tuple((name, shape.shape) for name, shape in engine.ageing.items()),
    )
    if len(ages) == 1:
        return _prior_at(model, next(iter(ages)), hazard, own)
    parts = [share / whole * _prior_at(model, age, hazard, own) for age, share in ages.items()]
    return np.asarray(sum(parts))


class _Hazard(NamedTuple):
    """How rates come with age: the youngest age and the reference age in years, the horizon in
    years, and the Weibull shapes by name."""

    youngest_years: float
    reference_years: float
    horizon_years: float
    shapes: tuple[tuple[str, float], ...]


Scale = tuple[tuple[str, float], ...]
"""Faults and the factors their rates are scaled by."""


@kept(32)
def _prior_at(model: DiagnosisModel, age_years: float, hazard: _Hazard, scale: Scale) -> Floats:
    """Return the prior of every fault set at one age.

    w(S) is the product of the faults' rates at this age times the horizon; a fault that another in
    S can cause with probability p counts 1 - (1 - r)(1 - p), and one that another in S can cause
    and that is not in S counts 1 - p: a cause without its result. Ageing by a Weibull hazard
    relative to the reference age (Weibull 1951). ``scale`` multiplies rates by fault, from a shop's
    own history.
    """
    machine, count = model.machine, len(model.fault_ids)
    rates = np.array(
        [
            _rate(machine.faults[f].rate, machine.faults[f].ageing, age_years, hazard)
            for f in model.fault_ids
        ]
    )
    known = dict(scale)
    rates = rates * np.array([known.get(f, 1.0) for f in model.fault_ids])
    spared = np.ones((count + 1, count + 1))
    for source, fault in enumerate(model.fault_ids):
        for target, p in machine.faults[fault].causes.items():
            spared[source, model.fault_index(target)] = 1 - p
    survival = np.append(1 - np.minimum(rates, 0.999), 0.0)
    spared = np.maximum(spared, 1e-12)
    weight = spared.prod(axis=1)[model.sets].prod(axis=1)
    for column in range(3):
        own = model.sets[:, column]
        caused = np.ones(len(own))
        for other in range(3):
            if other != column:
                caused *= spared[model.sets[:, other], own]
        weight *= np.where(own >= 0, (1 - survival[own] * caused) / caused, 1.0)
    weight[0] = machine.no_fault_rate * hazard.horizon_years
    chances: Floats = np.asarray(weight / weight.sum())
    chances.setflags(write=False)
    return chances


def _rate(rate: float, ageing: str, age_years: float, hazard: _Hazard) -> float:
    shape = dict(hazard.shapes)[ageing]
    relative = max(age_years, hazard.youngest_years) / hazard.reference_years
    return float(rate * relative ** (shape - 1) * hazard.horizon_years)
