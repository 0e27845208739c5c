"""Walks over everything a job lets happen: random commands and every short sequence, on every kind
of machine, held against sentences of harm that are written apart from the rules."""

from collections import deque
from collections.abc import Iterator
from dataclasses import dataclass, field, replace
from datetime import UTC, datetime, timedelta
from random import Random
from typing import get_args

from pydantic import BaseModel

from bottega.app.workshop import Workshop, open_workshop
from bottega.benchmark.harm import harm_of
from bottega.benchmark.policy import all_archetypes
from bottega.core.job.events import (
    AnyBody,
    Checked,
    CodesCleared,
    Event,
    Opened,
    ProofBegun,
    Proved,
    PutBack,
    Repaired,
    StateChanged,
    Temporary,
    TookOff,
)
from bottega.core.job.fold import after, fold
from bottega.core.job.job import Job
from bottega.core.job.kinds import allow
from bottega.core.job.refusal import JobRefusal
from bottega.core.job.safety import Law, as_left
from bottega.core.job.way import command_of
from bottega.core.library.machine_type import MachineType
from bottega.core.library.records import Needs
from bottega.core.library.vocabulary import INCONCLUSIVE, STATES, ProofName
from bottega.core.machine.reach import Reaching

LENGTH = 60
"""Commands of one job, after which another is begun; chosen."""
EASE = timedelta(minutes=20)
"""What lies between two commands: longer than any wait, so that no clock hides a rule."""
LED = 0.4
"""Share of commands that follow the way to something that is wanted; the rest are random."""
SAFE = Needs(power="off", taps="shut", water="out", posture="upright")
BEGAN = datetime(2031, 5, 14, tzinfo=UTC)
VOLTS = (None, 0, 12, 34, 35, 60, 310)
MEANS = ("a prop under the tub", "the door lock bridged", "tape round the hose")


@dataclass
class WalkFindings:
    """What walks have found so far, the first example of each kind of trouble kept."""

    states: set[tuple[str, object]] = field(default_factory=set)
    commands: int = 0
    accepted: int = 0
    counts: dict[str, int] = field(default_factory=dict)
    examples: dict[str, str] = field(default_factory=dict)

    def bad(self, kind: str, example: str) -> None:
        """Count one case of trouble."""
        self.counts[kind] = self.counts.get(kind, 0) + 1
        self.examples.setdefault(kind, example)


class WalkBench(BaseModel):
    """What was walked over and found; the last four are to be nought."""

    seed: int
    kinds: int
    states: int
    commands: int
    accepted: int
    forbidden: int
    offered_refused: int
    stuck: int
    server_errors: int
    examples: dict[str, str]


class Walker:
    """One job on one machine that commands are tried on."""

    def __init__(self, workshop: Workshop, kind: str, rng: Random, found: WalkFindings) -> None:
        self.machine, self.kind = workshop.shelf.machine(kind), kind
        self.tables, self.rng, self.found = workshop.shelf.tables, rng, found
        self.reaching = Reaching(self.machine, self.tables)
        self.wanted = list(_wanted(self.machine))
        self.begin()

    def begin(self) -> None:
        """Take on another job, its machine standing as one may on arrival."""
        said = {name: self.rng.choice(STATES[name]) for name in ("power", "taps", "drum", "door")}
        opened = Opened.model_validate(
            {
                "archetype": self.kind,
                "age_years": 7,
                "place": "Houseboat",
                "water": self.rng.choice(STATES["water"]),
                **said,
            }
        )
        self.danger = self.rng.random() < 1 / 4
        self.log = [Event(id="event-0000", at=BEGAN, author="Walker", body=opened)]
        self.job = fold(self.log, self.machine.charge is not None)

    @property
    def law(self) -> Law:
        """Return what a command given now is held against."""
        return Law(self.tables.invariants, self.tables.proofs, self.danger, self._now)

    @property
    def _now(self) -> datetime:
        return BEGAN + EASE * len(self.log)

    def give(self, body: AnyBody) -> JobRefusal | None:
        """Give one command; return its refusal, None where it was taken."""
        self.found.commands += 1
        try:
            allow(self.job, self.machine, body, self.law)
        except JobRefusal as refusal:
            return refusal
        except Exception as error:  # any other error is what this bench counts
            self.found.bad("server_errors", f"{self.kind} {body!r}: {error!r}")
            return JobRefusal(repr(error))
        self.found.accepted += 1
        if isinstance(body, Checked):
            body = as_left(self.job, self.machine, body)
        before = self.job
        event = Event(id=f"event-{len(self.log):04d}", at=self._now, author="Walker", body=body)
        self.log.append(event)
        self.job = after(self.job, event, self.log)
        self.found.states.add((self.kind, self.job.state))
        harm = harm_of(before, self.job, self.machine, body, self.danger)
        if harm:
            self.found.bad("forbidden", f"{self.kind} {harm}: {before.state} {body!r}")
        return None

    def wander(self) -> None:
        """Give some command: follow a way, or anything at random."""
        if self.rng.random() < LED:
            self.lead()
        else:
            self.give(_any(self))

    def lead(self) -> None:
        """Follow the way to something that is wanted, as its page offers it, and do it."""
        needs, check = self.rng.choice(self.wanted)
        if needs.power == "on" and (self.job.interlocks or (self.danger and not check)):
            return
        for step in self.reaching.reach(self.job.state, needs).steps:
            command = command_of(step, check, "Walker", measured_v=0)
            refusal = self.give(command)
            if refusal is not None:
                self._refused(f"the way to {check or needs}", command, refusal)
                return
        if check and not _blocked(self.job, self.danger):
            body = _outcome(self.machine, check, self.rng)
            refusal = self.give(body)
            if refusal is not None and refusal.field not in ("showed", "outcome"):
                self._refused(check, body, refusal)

    def rescue(self) -> None:
        """Make the machine safe from where it stands; from nowhere is it stuck."""
        for step in self.reaching.reach(self.job.state, SAFE).steps:
            refusal = self.give(command_of(step, measured_v=0))
            if refusal is not None:
                self.found.bad("stuck", f"{self.kind} {self.job.state} {step}: {refusal}")
                return

    def _refused(self, wanted: str, body: AnyBody, refusal: JobRefusal) -> None:
        told = f"{self.kind} {wanted}: {self.job.state} {body!r}: {refusal}"
        self.found.bad("offered_refused", told)


def bench_walk(seed: int, steps: int, breadth: int) -> WalkBench:
    """Walk at random for ``steps`` commands over all kinds, and through the first ``breadth``
    states of each kind in every direction."""
    found, workshop = WalkFindings(), open_workshop(None)
    kinds = all_archetypes()
    for number, kind in enumerate(kinds):
        walker = Walker(workshop, kind, Random(f"{seed} {kind}"), found)
        _spread(walker, breadth)
        _stroll(walker, steps * (number + 1) // len(kinds))
    trouble = ("forbidden", "offered_refused", "stuck", "server_errors")
    return WalkBench(
        seed=seed,
        kinds=len(kinds),
        states=len(found.states),
        commands=found.commands,
        accepted=found.accepted,
        examples=found.examples,
        **{name: found.counts.get(name, 0) for name in trouble},
    )


def walk_rows(bench: WalkBench) -> tuple[str, list[tuple[str, str, str]]]:
    """Return the head and rows of the bench's table."""
    rows = [
        ("states of a machine reached", f"{bench.states:,}", ""),
        ("commands given", f"{bench.commands:,}", "at least 200,000"),
        ("of them taken", f"{bench.accepted:,}", ""),
        ("taken, and may never be", str(bench.forbidden), "0"),
        ("offered, and refused", str(bench.offered_refused), "0"),
        ("no way to make it safe", str(bench.stuck), "0"),
        ("other errors", str(bench.server_errors), "0"),
    ]
    return f"Walks on {bench.kinds} kinds of machine, seed {bench.seed}", rows


def _stroll(walker: Walker, until: int) -> None:
    """Give random commands until so many were given in all; every job ends made safe."""
    while walker.found.commands < until:
        walker.begin()
        for _ in range(LENGTH):
            walker.wander()
        walker.rescue()


def _spread(walker: Walker, breadth: int) -> None:
    """Give every change and every operation from each state, the nearest states first."""
    walker.begin()
    walker.danger = False
    start, log = walker.job, list(walker.log)
    seen, waiting = {start.state}, deque([start.state])
    bodies = list(_moves(walker.machine))
    while waiting and len(seen) < breadth:
        state = waiting.popleft()
        for body in bodies:
            walker.job, walker.log = replace(start, state=state), list(log)
            if walker.give(body) is None and walker.job.state not in seen:
                seen.add(walker.job.state)
                waiting.append(walker.job.state)
        walker.job, walker.log = replace(start, state=state), list(log)
        walker.rescue()


def _wanted(machine: MachineType) -> Iterator[tuple[Needs, str]]:
    yield from ((check.needs, check.id) for check in machine.checks.values())
    yield from ((repair.way, "") for repair in machine.repairs.values())
    yield from ((part.reach, "") for part in machine.components.values())


def _moves(machine: MachineType) -> Iterator[AnyBody]:
    for what, values in STATES.items():
        for to in values:
            if to not in ("unknown", "held"):
                yield StateChanged.model_validate({"what": what, "to": to, "measured_v": 0})
    for name in machine.operations:
        yield TookOff(operation=name)
        yield PutBack(operation=name)


def _any(walker: Walker) -> AnyBody:
    """Return any command at all."""
    rng, machine = walker.rng, walker.machine
    drawn = rng.random()
    if drawn < 1 / 3:
        return _change(rng, machine)
    if drawn < 2 / 3:
        work = rng.choice((TookOff, PutBack))
        names = walker.job.state.off if work is PutBack and walker.job.state.off else ()
        return work(operation=rng.choice(names or tuple(machine.operations)))
    if drawn < 5 / 6:
        return _outcome(machine, rng.choice(list(machine.checks)), rng)
    return _rarer(rng, machine)


def _change(rng: Random, machine: MachineType) -> StateChanged:
    what = rng.choice(list(STATES))
    to = rng.choice([value for value in STATES[what] if value not in ("unknown", "held")])
    return StateChanged.model_validate(
        {
            "what": what,
            "to": to,
            "measured_v": rng.choice(VOLTS),
            "waited_min": rng.choice((None, 0, 30)),
            "for_check": rng.choice(("", rng.choice(list(machine.checks)))),
            "qualified": rng.choice(("", "Walker")),
            "ticked": rng.random() < 1 / 2,
        }
    )


def _rarer(rng: Random, machine: MachineType) -> AnyBody:
    proof = rng.choice(get_args(ProofName))
    return rng.choice(
        (
            Repaired(repair=rng.choice(list(machine.repairs))),
            ProofBegun(proof=proof),
            Proved(proof=proof, went="well", programme="Cotton 40", watched_to="spin"),
            Temporary(what=rng.choice(MEANS), interlock=rng.random() < 1 / 2, reason="for a test"),
            CodesCleared(),
        )
    )


def _outcome(machine: MachineType, check_id: str, rng: Random) -> Checked:
    check = machine.checks[check_id]
    if check.measure is not None:
        return Checked(check=check_id, outcome=INCONCLUSIVE)
    return Checked(check=check_id, outcome=rng.choice(check.outcomes).id)


def _blocked(job: Job, danger: bool) -> bool:
    """Return whether something stands against everything here that needs current."""
    return bool(job.interlocks) or danger
