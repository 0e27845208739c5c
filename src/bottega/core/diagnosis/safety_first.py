"""Which check goes before money: the one that tells most, for what it costs, whether something that
can hurt people is wrong."""

from collections.abc import Sequence

import numpy as np

from bottega.core.diagnosis.beam import Beam, Branches
from bottega.core.diagnosis.evidence import Evidence
from bottega.core.diagnosis.model import DiagnosisModel, Floats
from bottega.core.library.machine_type import Check, MachineType
from bottega.core.library.tables import EngineTable

TELLING_SHARE = 0.1
"""A check tells nothing worth going first for below this share of what could be learned; chosen."""


def safety_first(
    model: DiagnosisModel,
    beam: Beam,
    branches: Branches,
    checks: Sequence[Check],
    *,
    cost: Floats,
    evidence: Evidence,
    engine: EngineTable,
) -> int | None:
    """Return the place in ``checks`` of the check that goes first for safety, or None. A question
    is never chosen, for words clear no danger. A check with the power on is not chosen where a
    finding says that the machine should stay unplugged. The ``cost`` of the check, in the
    library's euro, has to be below its protection: the harm, times how far the answer moves the
    chance of the harm."""
    faults = model.machine.faults
    own = [i for i, name in enumerate(model.fault_ids) if faults[name].severity == "dangerous"]
    hit = beam.members[:, own].any(axis=1)
    now = float(beam.belief[hit].sum())
    if not engine.dangerous_above < now < 1 - engine.dangerous_above:
        return None
    moved = branches.after[:, hit].sum(axis=1) - now
    told = branches.mean(moved**2, len(checks))
    protects = branches.mean(np.abs(moved), len(checks)) * engine.harm_eur
    kept_off = unsafe_to_plug_in(model.machine, evidence)
    allowed = np.array(
        [c.who != "customer" and not (kept_off and c.needs.power == "on") for c in checks]
    )
    worth = allowed & (told > TELLING_SHARE * now * (1 - now)) & (protects > cost)
    return int(np.argmax(np.where(worth, told / cost, 0.0))) if worth.any() else None


def unsafe_to_plug_in(machine: MachineType, evidence: Evidence) -> bool:
    """Return whether a finding says that the machine had better stay unplugged, such as a tripped
    breaker or a smell of burning. A finding that was followed by a sound one after a later
    repair no longer counts."""
    for name, effect in machine.effects.items():
        if not effect.keep_off:
            continue
        found = [f for f in evidence.findings if f.effect == name]
        last = max((f.epoch for f in found), default=0)
        if any(f.epoch == last and max(f.likelihood) > f.likelihood[0] for f in found):
            return True
    return False
