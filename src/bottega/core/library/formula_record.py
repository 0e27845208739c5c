"""The record of a formula: what it asks and what it gives, with units, ranges and where an input
is known from."""

from typing import Literal

from pydantic import Field, model_validator

from bottega.core.library.records import Record


class FormulaInput(Record):
    """One input: its name, unit, the range it must lie in, where it is known from, and what stands
    in the field at first. A ``clock`` or a ``counter`` takes it."""

    name: str
    unit: str
    least: float
    most: float
    from_: tuple[str, ...] = Field(default=(), alias="from")
    usual: float | None = None
    clock: bool = False
    tap: Literal["", "cold", "hot"] = ""
    """Which tap runs while the clock does: it is opened with it and shut with it."""
    counter: bool = False

    @model_validator(mode="after")
    def _within(self) -> "FormulaInput":
        if self.usual is not None and not self.least <= self.usual <= self.most:
            raise ValueError(
                f"found the usual {self.usual:g}, expected {self.least:g} to {self.most:g}"
            )
        return self


class Gives(Record):
    """One output: its name and unit."""

    name: str
    unit: str


class Answered(Record):
    """How a formula answers a check that is not measured: by which output, and from which figure on
    each outcome holds, the least first."""

    by: str
    from_: dict[str, float] = Field(alias="from", min_length=2)

    @model_validator(mode="after")
    def _rises(self) -> "Answered":
        if list(self.from_.values()) != sorted(self.from_.values()):
            raise ValueError("found figures that do not rise, expected the least first")
        return self

    def outcome(self, amount: float) -> str:
        """Return the outcome of a figure: the last that begins at or below it, else the first."""
        begun = [outcome for outcome, figure in self.from_.items() if figure <= amount]
        return begun[-1] if begun else next(iter(self.from_))


class FormulaRecord(Record):
    """A formula as it is shown: its name, group, drawing, source, inputs and outputs; the checks it
    stands ``beside``, and those whose reading is one of its outputs."""

    name: str
    group: str
    drawing: str
    source: str
    caution: str | None = None
    beside: tuple[str, ...] = ()
    fitting: tuple[str, ...] = ()
    """Components at whose fitting it stands."""
    reads: dict[str, str] = {}
    answers: dict[str, Answered] = {}
    """By check that is answered by its outcomes, how it follows."""
    asks: dict[str, FormulaInput] = Field(min_length=1)
    gives: dict[str, Gives] = Field(min_length=1)

    @model_validator(mode="after")
    def _gives_what_it_reads(self) -> "FormulaRecord":
        answered = {check: answer.by for check, answer in self.answers.items()}
        for check, output in {**self.reads, **answered}.items():
            if output not in self.gives:
                raise ValueError(
                    f"found '{output}' for '{check}', expected one of {', '.join(self.gives)}"
                )
        return self


class FormulaTable(Record):
    """The formulas, and the names of their groups, in the order they are shown."""

    source: str
    groups: dict[str, str]
    formulas: dict[str, FormulaRecord]

    @model_validator(mode="after")
    def _grouped(self) -> "FormulaTable":
        for name, formula in self.formulas.items():
            if formula.group not in self.groups:
                raise ValueError(f"found the group '{formula.group}' of '{name}', expected a known")
        return self
