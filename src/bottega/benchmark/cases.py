"""Cases of repair written apart from the library, held against what the engine says of them."""

from collections.abc import Sequence
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Literal

from pydantic import BaseModel, ConfigDict, Field

from bottega.app.answer import Answer
from bottega.app.errors import BadValue
from bottega.app.job.answer import diagnose_events
from bottega.benchmark.policy import workshop
from bottega.core.job.events import (
    AnyBody,
    Checked,
    Complained,
    Event,
    Marked,
    Opened,
    PanelRead,
)
from bottega.core.library.errors import LibraryError
from bottega.core.library.machine_type import MachineType
from bottega.core.library.yamlfile import read_yaml

CASES = Path(__file__).with_name("cases.yaml")
LEADS_SURELY = 0.85
"""From this chance on the right part leads, and no next check is asked for; as the cases say."""
AMONG_FAULTS, AMONG_STEPS = 3, 10
PART_SAID = 0.5
"""What a finding counts of which only a part can be said; chosen."""
BEGUN = datetime(2031, 5, 14, tzinfo=UTC)


class MeantFinding(BaseModel):
    """What a finding is in the library's vocabulary."""

    model_config = ConfigDict(extra="forbid")

    kind: Literal["check", "codes", "mark"]
    id: str = ""
    outcome: str = ""
    ids: list[str] = []
    what: Literal["water", "oil", "scum", "soot", "rub", "noise"] = "water"
    at: str = ""
    phase: str = "any"
    age: Literal["live", "old", "unsure"] = "unsure"


class CaseFinding(BaseModel):
    """What was found: in words, and in the vocabulary as far as that can say it."""

    model_config = ConfigDict(extra="forbid")

    what: str
    outcome: str
    meant: list[MeantFinding] = Field(default=[], alias="as")
    gap: str = ""
    lost: str = ""

    @property
    def said(self) -> float:
        """Return how much of it the vocabulary can say: nothing, a part, all."""
        if self.gap or not self.meant:
            return 0.0
        return PART_SAID if self.lost else 1.0


class GoodNext(BaseModel):
    """A good next check, in words and by the checks that would be it."""

    words: str
    checks: list[str]


class Case(BaseModel):
    """One repair: what was said, what was found in turn, and what was so."""

    model_config = ConfigDict(extra="forbid")

    id: str
    archetype: str
    age_years: float
    complaint: str
    said: list[str]
    findings: list[CaseFinding]
    half: int
    truth: list[str]
    truth_ids: list[str]
    accept_top: list[str]
    must_not_top: list[str]
    best_next: list[GoodNext]
    why: str
    gap_truth: str = ""


class CasePlayed(BaseModel):
    """What came out of one case."""

    id: str
    kind: str
    top: bool
    """The first part at the end is a right one."""
    harmful: bool
    """It is one that must not be first."""
    half: bool
    """The truth is among the first three half way."""
    next: bool
    """A good next check is among the first ten steps half way, or the right part leads surely."""
    next_asked_apart: bool
    """The same with the questions to the customer left out of the ten."""
    first: str
    truth: str
    at_half: list[str]
    steps: list[str]


class CasesBench(BaseModel):
    """All cases together; shares of one."""

    cases: int
    findings: int
    top: float
    harmful: int
    half: float
    next: float
    next_asked_apart: float
    expressible: float
    played: list[CasePlayed]


def read_cases(path: Path) -> list[Case]:
    """Return the cases of a file. Raises BadValue for a file that holds none."""
    try:
        return [Case.model_validate(one) for one in read_yaml(path).data]
    except (OSError, ValueError, TypeError, LibraryError) as error:
        told = f"Found no cases in {path}: {str(error)[:300]}."
        raise BadValue(told, "file") from error


def bench_cases(cases: Sequence[Case]) -> CasesBench:
    """Return how the engine does on these cases."""
    played = [play_case(case) for case in cases]
    found = [finding for case in cases for finding in case.findings]

    def share(flags: Sequence[bool]) -> float:
        return round(sum(flags) / len(flags), 4) if flags else 0.0

    return CasesBench(
        cases=len(played),
        findings=len(found),
        top=share([one.top for one in played]),
        harmful=sum(one.harmful for one in played),
        half=share([one.half for one in played]),
        next=share([one.next for one in played]),
        next_asked_apart=share([one.next_asked_apart for one in played]),
        expressible=round(sum(one.said for one in found) / max(len(found), 1), 4),
        played=played,
    )


def play_case(case: Case) -> CasePlayed:
    """Return what the engine says of a case half way and at its end."""
    machine = machine_for(case)
    half = _answer(case, machine, case.findings[: case.half])
    end = _answer(case, machine, case.findings)
    first = end.ranking[0][0]
    part = machine.faults[first].component
    at_half = [fault for fault, _ in half.ranking[:AMONG_FAULTS]]
    leads, chance = half.ranking[0]
    sure = machine.faults[leads].component in case.accept_top and chance >= LEADS_SURELY
    steps = [step.check for step in half.plan.steps]
    good = {check for one in case.best_next for check in one.checks}
    hands = [check for check in steps if check.who != "customer"]
    return CasePlayed(
        id=case.id,
        kind=case.archetype,
        top=part in case.accept_top,
        harmful=part in case.must_not_top,
        half=bool(set(case.truth_ids) & set(at_half)),
        next=sure or bool(good & {check.id for check in steps[:AMONG_STEPS]}),
        next_asked_apart=sure or bool(good & {check.id for check in hands[:AMONG_STEPS]}),
        first=f"{first} {end.ranking[0][1]:.0%}",
        truth=", ".join(case.truth_ids),
        at_half=at_half,
        steps=[check.id for check in steps[:AMONG_STEPS]],
    )


def machine_for(case: Case) -> MachineType:
    """Return the machine of a case: of the sheet that has its codes, of the kind's first sheet
    where codes were read, or of the kind alone."""
    shelf = workshop().shelf
    read = [one for finding in case.findings for one in finding.meant if one.kind == "codes"]
    sheets = [name for name in shelf.sheets if shelf.sheet(name).archetype == case.archetype]
    if not read:
        return shelf.machine(case.archetype)
    codes = {code for one in read for code in one.ids}
    machines = [shelf.machine(case.archetype, name) for name in sheets]
    return max(machines, key=lambda machine: len(codes & machine.codes.keys()))


def bodies_of(case: Case, machine: MachineType, findings: Sequence[CaseFinding]) -> list[AnyBody]:
    """Return the entries of a job with these findings."""
    opened = Opened(
        archetype=case.archetype, sheet=machine.sheet, age_years=case.age_years, place="Case"
    )
    called = Complained(text=case.complaint, said=tuple(case.said))
    found = [_body(one) for finding in findings for one in finding.meant]
    return [opened, called, *found]


def _body(meant: MeantFinding) -> AnyBody:
    if meant.kind == "check":
        return Checked(check=meant.id, outcome=meant.outcome)
    if meant.kind == "codes":
        return PanelRead(result="codes" if meant.ids else "none", codes=tuple(meant.ids))
    return Marked.model_validate(
        {"what": meant.what, "at": meant.at, "phase": meant.phase, "age": meant.age}
    )


def _answer(case: Case, machine: MachineType, findings: Sequence[CaseFinding]) -> Answer:
    shop = workshop()
    events = [
        Event(id=f"{case.id}-{n:04d}", at=BEGUN + timedelta(minutes=n), author="Case", body=body)
        for n, body in enumerate(bodies_of(case, machine, findings))
    ]
    return diagnose_events(shop, case.id, events, shop.settings, machine=machine)


def case_rows(bench: CasesBench) -> tuple[list[str], list[list[str]]]:
    """Return the figures as a table, its head and its rows, with the cases that miss."""
    rows = [
        ["right part first at the end", f"{bench.top:.0%}", ">= 95 %"],
        ["a harmful one first", str(bench.harmful), "0"],
        ["truth among three half way", f"{bench.half:.0%}", ">= 90 %"],
        ["good next check among ten", f"{bench.next:.0%}", ">= 92 %"],
        ["the same, questions apart", f"{bench.next_asked_apart:.0%}", ""],
        ["of what was found can be said", f"{bench.expressible:.0%}", ">= 97 %"],
    ]
    for one in bench.played:
        if missed := _missed(one):
            found = f"{one.first}, half way {one.at_half[0]}"
            rows.append([f"{one.id} {one.kind}: {', '.join(missed)}", found, one.truth])
    head = [f"{bench.cases} cases, {bench.findings} findings", "found", "goal, or what was so"]
    return head, rows


def _missed(one: CasePlayed) -> list[str]:
    missed = {
        "harmful": one.harmful,
        "top": not one.top,
        "half": not one.half,
        "next": not one.next,
    }
    return [name for name, is_so in missed.items() if is_so]
