"""The fleet: machines of physics by seed, played to the end by every way of working, paired."""

import json
from collections.abc import Callable, Iterator, Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import asdict, dataclass
from datetime import date
from functools import lru_cache
from os import cpu_count
from pathlib import Path

import numpy as np
from pydantic import BaseModel

from bottega.app.job.answer import prices
from bottega.app.rig.worth import SaidShare, Share
from bottega.benchmark.fixed import by_list, knowing
from bottega.benchmark.play import Play, Policy, played
from bottega.benchmark.policies import POLICIES
from bottega.benchmark.policy import (
    AGES,
    PolicyResult,
    SoundPlayed,
    Worth,
    interval,
    ready,
    result_of,
    summed,
    workshop,
)
from bottega.benchmark.rigworld import RigWorld, draw_rig_world
from bottega.benchmark.truth import Kind, NobodyCalls
from bottega.core.diagnosis.model import DiagnosisModel, Floats
from bottega.core.diagnosis.prior import prior
from bottega.core.shop import ShopSettings

WAYS: dict[str, Policy] = {**POLICIES, "fixed": by_list, "clairvoyant": knowing}
"""Bottega's first recommendation; greedy information a minute; the checklist by cost; parts by
frequency; a fixed checklist by frequency; one who knows."""
KINDS: tuple[Kind, ...] = ("one", "one", "one", "two", "one", "one", "one", "sound")
"""What machines of a fleet have, in turn; every kind counts as often as it is called about."""


class FleetPart(BaseModel):
    """How Bottega did on a part of the fleet."""

    machines: int
    first_right: Share
    within_five: Share
    all_in: Share


class FleetBench(BaseModel):
    """What was measured, with the seed that reproduces it; keys as in PolicyBench where they say
    the same."""

    date: str
    """The day it was played on."""
    seed: int
    truths: int
    not_called: int
    """Machines nobody called about: nothing was to be noticed of what was drawn."""
    policies: dict[str, Worth]
    saved: Share
    """All-in money of greedy information less that of the plan, over that of greedy information."""
    saved_faulty: Share
    """The same where the machine has a fault."""
    over_checklist: Share
    """All-in money of the plan over that of the fixed checklist."""
    callbacks: dict[str, Share]
    minutes: dict[str, Share]
    sound: SoundPlayed
    calibration: list[SaidShare]
    said_less_true: float
    by_kind: dict[str, FleetPart]
    by_age: dict[str, FleetPart]


@dataclass(frozen=True)
class Ticket:
    """One machine of the fleet: which type, what it has, its seed."""

    archetype: str
    sheet: str
    kind: Kind
    seed: str


@dataclass(frozen=True)
class MachinePlayed:
    """How every way of working did on one machine."""

    seed: str
    archetype: str
    age_years: float
    results: dict[str, PolicyResult]
    callbacks: dict[str, int]
    minutes: dict[str, float]


def tickets(machines: int, seed: int) -> Iterator[Ticket]:
    """Yield the machines of a fleet, the sheets in turn."""
    sheets = sorted(workshop().shelf.sheets)
    for n in range(machines):
        sheet = sheets[n % len(sheets)]
        kind = KINDS[(n // len(sheets)) % len(KINDS)]
        yield Ticket(workshop().shelf.sheet(sheet).archetype, sheet, kind, f"{seed}:{sheet}:{n}")


def bench_fleet(
    machines: int, seed: int, done: Callable[[], None], kept: Path | None = None
) -> FleetBench:
    """Return the worth of every way of working over a fleet. What is played is kept in a file
    line by line, and taken from there when it is run again; ``done`` is called after each
    machine."""
    known = _kept(kept)
    wanted = list(tickets(machines, seed))
    lines = [known[ticket.seed] for ticket in wanted if ticket.seed in known]
    for _ in lines:
        done()
    left = [ticket for ticket in wanted if ticket.seed not in known]
    with ProcessPoolExecutor(cpu_count(), initializer=ready) as pool:
        for line in pool.map(play_ticket, left):
            lines.append(line)
            if kept is not None:
                with kept.open("a") as file:
                    file.write(json.dumps(asdict(line)) + "\n")
            done()
    return fleet_summed(lines, machines, seed)


def _kept(path: Path | None) -> dict[str, MachinePlayed]:
    if path is None or not path.exists():
        return {}
    found = {}
    for text in path.read_text().splitlines():
        try:
            raw = json.loads(text)
            results = {name: PolicyResult(**result) for name, result in raw.pop("results").items()}
            found[raw["seed"]] = MachinePlayed(results=results, **raw)
        except (ValueError, TypeError, KeyError):
            continue
    return found


def play_ticket(ticket: Ticket) -> MachinePlayed:
    """Return how every way of working does on one machine; none where nobody calls about it."""
    model, priors = _model(ticket.archetype, ticket.sheet)
    shelf = workshop().shelf
    quantities, engine = shelf.tables.quantities, shelf.tables.engine
    try:
        first = draw_rig_world(model, priors, quantities, ticket.kind, seed=ticket.seed)
    except NobodyCalls:
        return MachinePlayed(ticket.seed, ticket.archetype, 0.0, {}, {}, {})
    found: dict[str, PolicyResult] = {}
    callbacks, minutes = {}, {}
    for name, policy in WAYS.items():
        world = RigWorld(
            first.machine,
            quantities,
            first.specimen,
            first.seed,
            first.age_years,
            benches=first.benches,
        )
        play = Play(
            world,
            model,
            priors[world.age_years],
            engine,
            workshop().reaching(first.machine),
            prices(ShopSettings(), first.machine),
        )
        end = played(play, policy)
        found[name] = result_of(ticket.kind, end)
        callbacks[name], minutes[name] = end.callbacks, round(end.minutes, 2)
    return MachinePlayed(ticket.seed, ticket.archetype, first.age_years, found, callbacks, minutes)


def fleet_summed(lines: Sequence[MachinePlayed], machines: int, seed: int) -> FleetBench:
    """Return the fleet's figures with intervals; every kind of machine counts as often as it is
    called about."""
    called = [line for line in lines if line.results]
    rng = np.random.default_rng(seed)
    results = {name: [line.results[name] for line in called] for name in WAYS}
    base = summed(results, machines, seed, False, shares=called_shares())
    counts = {kind: sum(r.kind == kind for r in results["bottega"]) for kind in called_shares()}
    weights = np.array([called_shares()[r.kind] / counts[r.kind] for r in results["bottega"]])
    plan, fixed = ([r.all_in for r in results[name]] for name in ("bottega", "fixed"))
    return FleetBench(
        date=date.today().isoformat(),
        seed=seed,
        truths=machines,
        not_called=len(lines) - len(called),
        policies=base.policies,
        saved=base.saved,
        saved_faulty=base.saved_faulty,
        over_checklist=interval(plan, rng, weights, fixed),
        callbacks={n: interval([line.callbacks[n] for line in called], rng, weights) for n in WAYS},
        minutes={n: interval([line.minutes[n] for line in called], rng, weights) for n in WAYS},
        sound=base.sound,
        calibration=base.calibration,
        said_less_true=base.said_less_true,
        by_kind=_groups(called, weights, rng, lambda line: line.archetype),
        by_age=_groups(called, weights, rng, lambda line: f"{line.age_years:g}"),
    )


def _groups(
    lines: Sequence[MachinePlayed],
    weights: Floats,
    rng: np.random.Generator,
    key: Callable[[MachinePlayed], str],
) -> dict[str, FleetPart]:
    found = {}
    for name in sorted({key(line) for line in lines}, key=lambda n: (len(n), n)):
        own = [
            n
            for n, line in enumerate(lines)
            if key(line) == name and line.results["bottega"].kind != "sound"
        ]
        results, w = [lines[n].results["bottega"] for n in own], weights[own]
        found[name] = FleetPart(
            machines=len(own),
            first_right=interval([r.right for r in results], rng, w),
            within_five=interval([r.within is not None and r.within <= 5 for r in results], rng, w),
            all_in=interval([r.all_in for r in results], rng, w),
        )
    return found


@lru_cache(maxsize=1)
def called_shares() -> dict[Kind, float]:
    """Return how often machines with one fault, two and none are called about."""
    from bottega.benchmark.policy import called_about

    return called_about(tuple(workshop().shelf.archetypes))


@lru_cache(maxsize=32)
def _model(archetype: str, sheet: str) -> tuple[DiagnosisModel, dict[float, Floats]]:
    model = workshop().engine.model(workshop().shelf.machine(archetype, sheet))
    return model, {age: prior(model, age, workshop().shelf.tables.engine) for age in AGES}
