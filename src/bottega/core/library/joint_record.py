"""How tight what is put together goes again, and how what is stuck is got off."""

from pydantic import Field

from bottega.core.library.records import Record

OTHER = "other"
"""The kind that stands for all that are not listed."""


class JointKind(Record):
    """A kind of fastener: how tight it goes, what is tried in order when it is stuck, what is never
    done, how long oil has to soak."""

    tight: str
    stuck: tuple[str, ...] = Field(min_length=1)
    never: str
    soak_minutes: float = Field(ge=0, le=240)


class JointTable(Record):
    """tables/joints.yaml."""

    source: str
    kinds: dict[str, JointKind]

    def of(self, kind: str) -> JointKind:
        """Return what holds for a kind of fastener: its own, that of the word it ends with, or that
        for all others."""
        return self.kinds.get(kind) or self.kinds.get(kind.split()[-1]) or self.kinds[OTHER]
