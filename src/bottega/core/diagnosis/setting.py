"""How a job stands when its next check is chosen."""

from dataclasses import dataclass

from bottega.core.diagnosis.evidence import Evidence
from bottega.core.diagnosis.infer import Belief
from bottega.core.diagnosis.repairplan import ShopPrices
from bottega.core.library.tables import EngineTable
from bottega.core.machine.reach import Reaching
from bottega.core.machine.state import MachineState


@dataclass(frozen=True)
class Setting:
    """What is believed and why, how the machine stands and can be reached, what things cost."""

    belief: Belief
    evidence: Evidence
    state: MachineState
    reaching: Reaching
    prices: ShopPrices
    engine: EngineTable
