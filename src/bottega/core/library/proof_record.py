"""What a proof of a repair wants: how the machine has to stand, and for how long."""

from pydantic import Field, model_validator

from bottega.core.library.records import Needs, Record
from bottega.core.library.vocabulary import ProofName


class ProofRecord(Record):
    """One proof: the state it needs, the least minutes by its clock (nought where none runs), and
    whether it is a programme that is watched to a phase."""

    needs: Needs
    minutes: float = Field(default=0, ge=0, le=120)
    watched: bool = False


class ProofTable(Record):
    """tables/proofs.yaml: every proof by its name."""

    source: str
    proofs: dict[ProofName, ProofRecord]

    @model_validator(mode="after")
    def _each_is_there(self) -> "ProofTable":
        names = ProofName.__args__  # type: ignore[attr-defined]  # the words of a Literal
        missing = [name for name in names if name not in self.proofs]
        if missing:
            raise ValueError(f"found no {', '.join(missing)}, expected every proof")
        return self
