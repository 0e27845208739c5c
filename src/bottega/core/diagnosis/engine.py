"""The engine: the compiled machine types of one shop, and the answers worked out with them that may
be asked again."""

from bottega.core.diagnosis.kept_answers import KeptAnswers
from bottega.core.diagnosis.model import DiagnosisModel, compile_model
from bottega.core.kept import Kept
from bottega.core.library.machine_type import MachineType

MODELS_KEPT = 32
"""Compiled machine types; chosen, four times the kinds the library ships."""


class Engine:
    """Compiled machine types and kept answers of one holder: a workshop, a bench, a test. Bounded,
    and safe under threads.

    The functions of this package ask a compiled machine type, and keep their answers with the
    engine it was compiled by. ``clear`` lets all of it go, for a new edition of the library.
    """

    def __init__(self) -> None:
        self.answers = KeptAnswers()
        self._models: Kept[MachineType, DiagnosisModel] = Kept(MODELS_KEPT)

    def model(self, machine: MachineType) -> DiagnosisModel:
        """Return the arrays of a machine type, compiled at the first time it is asked for."""
        return self._models.get(machine, lambda: compile_model(machine, self.answers))

    def clear(self) -> None:
        """Let every model and every answer go."""
        self._models.clear()
        self.answers.clear()
