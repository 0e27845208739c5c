"""Small tables every library shares: likelihood words, tools, state changes, quantities, the
engine's settings."""

from dataclasses import dataclass
from pathlib import Path
from typing import Annotated, Any, Literal, TypeVar

from pydantic import BaseModel, Field, ValidationError, model_validator

from bottega.core.library.advice_record import AdviceTable
from bottega.core.library.bearing_record import BearingTable, FitTable, SealTable
from bottega.core.library.doubt import Doubt, Doubts
from bottega.core.library.errors import LibraryError, Problem
from bottega.core.library.formula_record import FormulaTable
from bottega.core.library.invariant_record import InvariantTable
from bottega.core.library.joint_record import JointTable
from bottega.core.library.limits import LimitTable
from bottega.core.library.make_safe_record import MakeSafeTable
from bottega.core.library.proof_record import ProofTable
from bottega.core.library.records import Grade, HowDone, Record
from bottega.core.library.school_record import SchoolTable
from bottega.core.library.strip_record import StripTable
from bottega.core.library.yamlfile import YamlSource, read_yaml

Model = TypeVar("Model", bound=BaseModel)


class Tool(Record):
    """A tool: its name on the pick list, default minutes of a check done with it, and the usual
    caution."""

    name: str
    minutes: float = Field(gt=0)
    special: bool = False
    caution: str | None = None


class ChangeRecord(Record):
    """One change of the machine's state: what to do, how long it takes, what to say when it is
    done."""

    name: str
    unplugged: str | None = None
    """How it is done on a machine that is unplugged, where that is otherwise."""
    minutes: float = Field(gt=0)
    done: str
    caution: str | None = None

    def said(self, power: str) -> str:
        """Return what to do on a machine whose plug stands so."""
        return self.unplugged if self.unplugged and power == "off" else self.name


class Quantity(Record):
    """A measured quantity: its unit, physical range, and the meter's accuracy (share of reading
    plus a floor)."""

    unit: str
    symbol: str
    least: float
    most: float
    accuracy: float = Field(gt=0)
    floor: float = Field(ge=0)
    ol: bool
    """Whether a meter shows overload for an open circuit."""
    prefix: str | None = None
    """The unit that a prefix typed alone belongs to: "k" is kilo-ohm, also where the field is in
    megohm. None where a prefix alone means nothing."""
    opens: bool = True
    """Whether far above its window means an open circuit; for volts it means too many volts."""
    guarded: bool = False
    """Whether a reading believed wrongly can hurt somebody: it is never guessed at, and never
    judged by what the shop itself measured."""


class Hazard(Record):
    """Weibull shape and scale in years of one ageing shape."""

    shape: float = Field(gt=0)


class SeenTable(Record):
    """What it means that a fault was seen, as chances: of its outcome where it is ``there`` and
    ``otherwise``; of its state ``without`` it, and that the state is missing with it (``misses``),
    where it is ``mostly`` there at all. A state as ``rare`` as this on a sound machine is
    ``unexplained`` in at most so large a share of what known faults bring about."""

    there: float = Field(gt=0.5, lt=1)
    otherwise: float = Field(gt=0, lt=0.01)
    without: float = Field(gt=0, lt=0.01)
    misses: float = Field(gt=0, lt=0.1)
    mostly: float = Field(gt=0, lt=1)
    rare: float = Field(gt=0, lt=0.1)
    unexplained: float = Field(gt=0, le=1)


class EngineTable(Record):
    """Figures of the diagnosis engine, each explained in tables/engine.yaml."""

    source: str
    seen: SeenTable
    reference_age_years: float = Field(gt=0)
    youngest_years: float = Field(gt=0)
    horizon_years: float = Field(gt=0)
    unknown_ages: dict[Annotated[float, Field(gt=0)], Annotated[float, Field(gt=0, le=1)]]
    ageing: dict[str, Hazard]
    beam_mass: float = Field(gt=0, lt=1)
    beam_size: int = Field(gt=10)
    preview_sets: int = Field(gt=10)
    preview_mass: float = Field(gt=0, lt=1)
    preview_most: int = Field(gt=10)
    tells_above: float = Field(gt=0, lt=1)
    looked_into: int = Field(ge=1)
    two_deep_among: int = Field(ge=0)
    two_deep: int = Field(ge=1)
    second_checks: int = Field(ge=1)
    first_repairs: int = Field(ge=1)
    follow_above: float = Field(ge=0, lt=1)
    codes_repeatability: float = Field(ge=0, le=1)
    run_misses: float = Field(gt=0, lt=1)
    run_overlooks: float = Field(gt=0, lt=1)
    run_false_alarms: float = Field(gt=0, lt=1)
    run_false_notices: float = Field(gt=0, lt=1)
    runs_a_week: float = Field(gt=0)
    recheck_sure: float = Field(gt=0, lt=1)
    pause_minutes: float = Field(gt=0)
    run_repeatability: float = Field(ge=0, le=1)
    stale_after_clear: float = Field(ge=0, le=1)
    callback_eur: float = Field(ge=0)
    wrong_part_share: float = Field(ge=0, le=1)
    verify_minutes: float = Field(ge=0)
    note_minutes: float = Field(ge=0)
    dangerous_above: float = Field(gt=0, lt=1)
    harm_eur: float = Field(gt=0)
    sure_saving_eur: float = Field(ge=0)
    sure_at: float = Field(gt=0, lt=1)
    asked_saving_eur: float = Field(ge=0)
    least_saving_eur: float = Field(ge=0)
    history_counts: float = Field(gt=0)
    history_least: float = Field(gt=0, le=1)
    history_most: float = Field(ge=1)
    stop_using_above: float = Field(gt=0, lt=1)
    live_factor: float = Field(ge=1)
    most_checks: int = Field(ge=1)
    later_bits: float = Field(ge=1)
    dearest_bit_eur: float = Field(gt=0)
    had_for: float = Field(gt=0, le=1)
    saved_of: float = Field(gt=0, le=1)


class CheckPattern(HowDone):
    """A check as it is asked of anything of a kind: {name} stands for the component, the outcomes
    ``first`` and ``last`` for the normal and the worst state of the effect it reads."""

    name: str
    where: Literal["part", "plug", "outside"] = "part"
    component: str | None = None
    """Where it is drawn, when that is not the component itself."""
    outcomes: dict[str, str]


class Demand(Record):
    """What a technician expects to be able to ask of a thing of a kind. It is met by a check that
    ``asks`` it, by one made by the pattern ``check``, or ``by`` one check for all of the kind, a
    service step or a mark."""

    id: str
    says: str
    check: CheckPattern | None = None
    by: str | None = None
    in_hand: bool = False
    """Whether the part has to come out for it."""
    feeds: bool = False
    """Whether the part is fed by itself from a lead: asked only of parts that may be fed so."""


class KindRecord(Record):
    """A kind of thing: its name, and what it can be asked, by id."""

    name: str
    demands: dict[str, Demand]

    @model_validator(mode="before")
    @classmethod
    def _ids(cls, data: Any) -> Any:
        demands = data.get("demands") if isinstance(data, dict) else None
        if isinstance(demands, dict):
            data = {**data, "demands": {k: {"id": k, **d} for k, d in demands.items()}}
        return data


class KindTable(Record):
    """The kinds of thing a machine is made of."""

    source: str
    kinds: dict[str, KindRecord]


class MarkKind(Record):
    """A kind of mark: its name, and the word for a place that has it."""

    name: str
    seen: str


class MarkAge(Record):
    """How fresh a mark is: the chance of seeing it so when the effect shows that state, and
    otherwise."""

    name: str
    shows: float = Field(gt=0, lt=1)
    otherwise: float = Field(gt=0, lt=1)


class MarkTable(Record):
    """Kinds and ages of marks, and what is left of one that shows itself in another phase than it
    should."""

    source: str
    kinds: dict[str, MarkKind]
    ages: dict[str, MarkAge]
    elsewhen: float = Field(ge=0, le=1)
    repeatability: float = Field(ge=0, le=1)


class Trait(Record):
    """A tell-tale trait, and the minutes it takes to see it. One of a ``platform`` tells the models
    built on it, whatever badge they wear; the others tell the kind of machine."""

    name: str
    minutes: float = Field(gt=0)
    platform: bool = False


class TraitTable(Record):
    """The traits in the order they can be seen, and the chance of a slip in seeing one."""

    source: str
    slip: float = Field(gt=0, lt=0.5)
    traits: dict[str, Trait]


class PanelTable(Record):
    """How people misread panels and fail at their service modes, and what to do otherwise then."""

    source: str
    flash_missed: float = Field(gt=0, lt=0.5)
    flash_doubled: float = Field(gt=0, lt=0.5)
    code_unlisted: float = Field(gt=0, lt=1)
    stroke_misjudged: float = Field(gt=0, lt=0.5)
    tone_misheard: float = Field(gt=0, lt=0.5)
    lamp_misread: float = Field(gt=0, lt=0.5)
    entry_missed: float = Field(gt=0, lt=1)
    entry_never: float = Field(gt=0, lt=1)
    entry_advice: tuple[str, ...] = Field(min_length=1)


class SpeechTable(Record):
    """How customers speak: what denies and what praises, what ends a clause and what only says
    when, who a clause is about, how often, and which words mean the same."""

    source: str
    not_: tuple[str, ...] = Field(alias="not")
    partly: tuple[str, ...]
    trouble: tuple[str, ...]
    done: tuple[str, ...]
    no: tuple[str, ...]
    fails: tuple[str, ...]
    ends: tuple[str, ...]
    but: tuple[str, ...]
    when: tuple[str, ...]
    and_: tuple[str, ...] = Field(alias="and")
    subject: tuple[str, ...]
    within: tuple[str, ...]
    functions: tuple[str, ...]
    brings: tuple[str, ...]
    once: tuple[str, ...]
    should: tuple[str, ...]
    well: tuple[str, ...]
    every_time: tuple[str, ...]
    now_and_then: tuple[str, ...]
    same: dict[str, tuple[str, ...]]
    apart: tuple[str, ...]
    little: tuple[str, ...]


class _Words(Record):
    source: str
    words: dict[str, float]
    doubt: dict[Grade, Doubt]


class _Tools(Record):
    source: str
    tools: dict[str, Tool]


class _Changes(Record):
    source: str
    changes: dict[str, dict[str, ChangeRecord]]


class _Quantities(Record):
    source: str
    quantities: dict[str, Quantity]


@dataclass(frozen=True)
class Tables:
    """The shared tables, read once."""

    words: dict[str, float]
    doubts: Doubts
    tools: dict[str, Tool]
    changes: dict[str, dict[str, ChangeRecord]]
    quantities: dict[str, Quantity]
    engine: EngineTable
    traits: TraitTable
    marks: MarkTable
    speech: SpeechTable
    panel: PanelTable
    kinds: KindTable
    formulas: FormulaTable
    limits: LimitTable
    bearings: BearingTable
    fits: FitTable
    seals: SealTable
    joints: JointTable
    schools: SchoolTable
    make_safe: MakeSafeTable
    strip: StripTable
    invariants: InvariantTable
    proofs: ProofTable
    advice: AdviceTable


MOST_PROBLEMS = 20
"""Problems of a file that are listed at once; chosen, nobody mends more before looking again."""


def validated(kind: type[Model], source: YamlSource) -> Model:
    """Return the file as a record, or raise LibraryError with file, line, key path, found and
    expected."""
    try:
        return kind.model_validate(source.data)
    except ValidationError as error:
        problems = [
            Problem(
                source.file,
                source.line_of(tuple(item["loc"])),
                ".".join(str(part) for part in item["loc"]),
                "nothing" if item["type"] == "missing" else _short(item["input"]),
                item["msg"].removeprefix("Value error, ").lower(),
            )
            for item in error.errors()[:MOST_PROBLEMS]
        ]
        raise LibraryError(problems) from error


def read_tables(folder: Path) -> Tables:
    """Read the tables from ``folder`` (data/tables). Raises LibraryError."""
    words = validated(_Words, read_yaml(folder / "words.yaml"))
    return Tables(
        words=words.words,
        doubts=Doubts(words.doubt, tuple(sorted(words.words.values()))),
        tools=validated(_Tools, read_yaml(folder / "tools.yaml")).tools,
        changes=validated(_Changes, read_yaml(folder / "states.yaml")).changes,
        quantities=validated(_Quantities, read_yaml(folder / "quantities.yaml")).quantities,
        engine=validated(EngineTable, read_yaml(folder / "engine.yaml")),
        traits=validated(TraitTable, read_yaml(folder / "traits.yaml")),
        marks=validated(MarkTable, read_yaml(folder / "marks.yaml")),
        speech=validated(SpeechTable, read_yaml(folder / "speech.yaml")),
        panel=validated(PanelTable, read_yaml(folder / "panel.yaml")),
        kinds=validated(KindTable, read_yaml(folder / "kinds.yaml")),
        limits=validated(LimitTable, read_yaml(folder / "limits.yaml")),
        bearings=validated(BearingTable, read_yaml(folder / "bearings.yaml")),
        fits=validated(FitTable, read_yaml(folder / "fits.yaml")),
        strip=validated(StripTable, read_yaml(folder / "strip.yaml")),
        invariants=validated(InvariantTable, read_yaml(folder / "invariants.yaml")),
        proofs=validated(ProofTable, read_yaml(folder / "proofs.yaml")),
        advice=validated(AdviceTable, read_yaml(folder / "advice.yaml")),
        schools=validated(SchoolTable, read_yaml(folder / "schools.yaml")),
        make_safe=validated(MakeSafeTable, read_yaml(folder / "make_safe.yaml")),
        joints=validated(JointTable, read_yaml(folder / "joints.yaml")),
        seals=validated(SealTable, read_yaml(folder / "seals.yaml")),
        formulas=validated(FormulaTable, read_yaml(folder / "formulas.yaml")),
    )


def _short(value: object) -> str:
    text = repr(value)
    return text if len(text) <= 60 else text[:57] + "..."
