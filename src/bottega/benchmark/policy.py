"""Play every way of working on machines with known faults, paired, and say what each is worth."""

from collections.abc import Callable, Iterator, Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, replace
from functools import lru_cache
from os import cpu_count
from random import Random

import numpy as np
from pydantic import BaseModel
from threadpoolctl import threadpool_limits

from bottega.app.job.answer import prices
from bottega.app.rig.worth import SaidShare, Share
from bottega.app.workshop import Workshop, open_workshop
from bottega.benchmark.disturbed import disturbed
from bottega.benchmark.play import Play, Policy, played
from bottega.benchmark.policies import POLICIES, Foretold, foretelling, without
from bottega.benchmark.truth import Kind, draw_world, rows_of
from bottega.core.diagnosis.model import DiagnosisModel, Floats
from bottega.core.diagnosis.prior import prior
from bottega.core.library.signs import slip_of
from bottega.core.shop import ShopSettings

AGES = (0.5, 2, 4, 7, 11, 16)
"""Ages of the machines, in years; chosen, from early faults to worn ones."""
TWO_OF = 4
"""One truth in so many has two faults; chosen."""
SOUND_OF = 6
"""And beside so many truths one sound machine is played; chosen."""
DRAWS = 2000
"""Draws of the bootstrap (Efron 1979) behind every interval."""
FEW_CHECKS = 5
SOUND_CHECKS = 10
"""Within how many checks a fault is found quickly, and a sound machine left alone; the goals'."""


class Worth(BaseModel):
    """What one way of working comes to, over machines with one fault or two, each counted as often
    as it is called about; money all in over every call, those about sound machines with them."""

    first_right: Share
    """Share whose first repair was one of the right ones."""
    within_five: Share
    """Share whose first right repair came after at most five checks."""
    checks: Share
    cost: Share
    """Money until the first repair, in the library's euro."""
    all_in: Share
    """Money of a call until the job ends, callbacks and what stays unresolved with it."""
    all_in_faulty: Share
    """The same where the machine has a fault."""
    all_gone: Share
    """Share that ended with every fault gone."""
    two_fault_whole: Share
    """The same among the truths of two faults."""
    most_checks: int


class SoundPlayed(BaseModel):
    """Sound machines played by the plan: the share left alone within ten checks without a part."""

    ended_well: Share
    checks: Share


class Money(BaseModel):
    """What the plan says of money before one of its checks, drawn at random, and how it was, over
    all calls: what the job ``costs`` from there and was ``paid``; what the check ``saves``, and
    what the same machines cost more with it never made."""

    costs: Share
    paid: Share
    saves: Share
    saved: Share


class PolicyBench(BaseModel):
    """What was measured, with the seed that reproduces it."""

    seed: int
    truths: int
    disturbed: bool
    policies: dict[str, Worth]
    saved: Share
    """All-in money of greedy information less that of the plan, over that of greedy information."""
    saved_faulty: Share
    """The same where the machine has a fault."""
    sound: SoundPlayed
    calibration: list[SaidShare]
    said_less_true: float
    money: Money


@dataclass(frozen=True)
class PlayTask:
    """One machine to be played by every policy."""

    archetype: str
    kind: Kind
    seed: str
    disturbed: bool


@dataclass(frozen=True)
class PolicyResult:
    """How one policy did on one machine; ``right`` tells whether its first repair was one of the
    right ones, which advice to a sound machine's owner can be."""

    kind: Kind
    right: bool
    said: float | None
    within: int | None
    checks: int
    cost: float
    all_in: float
    gone: bool
    parts: int
    foretold: Foretold | None = None
    """What the plan said of money before one of its checks, drawn by the seed of the ``of`` it made
    before its first repair."""
    of: int = 0
    without: float = 0.0
    """And what the machine costs all in where that check is never made."""


def bench_policy(
    truths: int,
    seed: int,
    disturb: bool,
    archetypes: Sequence[str],
    *,
    done: Callable[[], None],
) -> PolicyBench:
    """Return the worth of every policy over ``truths`` machines of each of the ``archetypes``;
    ``done`` is called after each."""
    tasks = list(_tasks(truths, seed, disturb, archetypes))
    results: dict[str, list[PolicyResult]] = {name: [] for name in POLICIES}
    with ProcessPoolExecutor(cpu_count(), initializer=ready) as pool:
        for one in pool.map(play_all, tasks, chunksize=2):
            for name, result in one.items():
                results[name].append(result)
            done()
    return summed(results, truths, seed, disturb, shares=called_about(archetypes))


def called_about(archetypes: Sequence[str]) -> dict[Kind, float]:
    """Return how often, of all calls, machines of each kind are what is called about: by the prior,
    over the ages and archetypes alike; nobody calls about most machines that have nothing."""
    shares: dict[Kind, float] = {"one": 0.0, "two": 0.0, "sound": 0.0}
    for archetype in archetypes:
        model, priors = _model(archetype, False)
        called = np.ones(len(model.sets))
        called[0] = slip_of(model.machine.complaints)
        calls = np.sum(list(priors.values()), axis=0) * called
        for kind in shares:
            shares[kind] += float(calls[rows_of(model, kind)].sum())
    return {kind: share / sum(shares.values()) for kind, share in shares.items()}


def all_archetypes() -> tuple[str, ...]:
    """Return every archetype of the shipped library."""
    return tuple(workshop().shelf.archetypes)


def tasks_of(truths: int, archetypes: Sequence[str]) -> int:
    """Return how many machines are played."""
    return sum(1 for _ in _tasks(truths, 0, False, archetypes))


def _tasks(truths: int, seed: int, disturb: bool, archetypes: Sequence[str]) -> Iterator[PlayTask]:
    for archetype in archetypes:
        for n in range(truths):
            kind: Kind = "two" if n % TWO_OF == TWO_OF - 1 else "one"
            yield PlayTask(archetype, kind, f"{seed}:{archetype}:{kind}:{n}", disturb)
        for n in range(max(1, truths // SOUND_OF)):
            yield PlayTask(archetype, "sound", f"{seed}:{archetype}:sound:{n}", disturb)


def play_all(task: PlayTask) -> dict[str, PolicyResult]:
    """Return how every policy did on one machine."""
    shop = workshop()
    machine = shop.shelf.machine(task.archetype)
    engine, model, priors = shop.shelf.tables.engine, *_model(task.archetype, False)
    true_model, true_priors = _model(task.archetype, task.disturbed)
    money = prices(ShopSettings(), machine)

    def by(policy: Policy) -> PolicyResult:
        world = draw_world(true_model, true_priors, engine, task.kind, seed=task.seed)
        before = priors[world.age_years]
        play = Play(world, model, before, engine, shop.reaching(machine), money)
        return result_of(task.kind, played(play, policy))

    told: list[Foretold] = []
    own = by(foretelling(told))
    if told:
        one = Random(task.seed).choice(told)
        own = replace(own, foretold=one, of=len(told), without=by(without(one.check)).all_in)
    others = {name: by(policy) for name, policy in POLICIES.items() if name != "bottega"}
    return {"bottega": own, **others}


def result_of(kind: Kind, play: Play) -> PolicyResult:
    first = play.first
    return PolicyResult(
        kind=kind,
        right=first is not None and first.right,
        said=first.said if first else None,
        within=play.found_within,
        checks=play.checks,
        cost=play.looked,
        all_in=play.cost,
        gone=not play.world.faults,
        parts=play.parts,
    )


def summed(
    results: dict[str, list[PolicyResult]],
    truths: int,
    seed: int,
    disturb: bool,
    *,
    shares: dict[Kind, float],
) -> PolicyBench:
    """Return the results of every policy on the same machines, in the same order, as figures with
    intervals. Every kind of machine counts as often as it is called about, ``shares``; of two
    faults more are played, so that enough is known of them."""
    rng = np.random.default_rng(seed)
    own = results["bottega"]
    counts = {kind: sum(r.kind == kind for r in own) for kind in shares}
    every = np.array([shares[r.kind] / counts[r.kind] for r in own])
    ill = every * [r.kind != "sound" for r in own]
    said = [r for r in own if r.said is not None]
    weights = every[[r.said is not None for r in own]]
    off = np.array([(r.said or 0.0) - r.right for r in said])
    return PolicyBench(
        seed=seed,
        truths=truths,
        disturbed=disturb,
        policies={name: _worth(them, every, ill, rng) for name, them in results.items()},
        saved=_less(own, results["information"], every, rng),
        saved_faulty=_less(own, results["information"], ill, rng),
        sound=_sound([r for r in own if r.kind == "sound"], rng),
        calibration=_calibration(said),
        said_less_true=round(float(off @ weights / weights.sum()), 4) if said else 0.0,
        money=_money(own, every, rng),
    )


def _worth(
    own: Sequence[PolicyResult], every: Floats, ill: Floats, rng: np.random.Generator
) -> Worth:
    """Return what a way of working comes to; machines count by ``ill`` (n,), zero for sound ones,
    and what they cost all in by ``every`` call (n,)."""

    def mean(values: Sequence[float]) -> Share:
        return interval(values, rng, ill)

    two = [r for r in own if r.kind == "two"]
    return Worth(
        first_right=mean([r.right for r in own]),
        within_five=mean([r.within is not None and r.within <= FEW_CHECKS for r in own]),
        checks=mean([r.checks for r in own]),
        cost=mean([r.cost for r in own]),
        all_in=interval([r.all_in for r in own], rng, every),
        all_in_faulty=mean([r.all_in for r in own]),
        all_gone=mean([r.gone for r in own]),
        two_fault_whole=interval([r.gone for r in two], rng),
        most_checks=max(r.checks for r in own),
    )


def _less(
    plan: Sequence[PolicyResult],
    plain: Sequence[PolicyResult],
    weights: Floats,
    rng: np.random.Generator,
) -> Share:
    """Return by how much less ``plan`` costs all in than ``plain``, over what that costs."""
    less = [b.all_in - a.all_in for a, b in zip(plan, plain, strict=True)]
    return interval(less, rng, weights, [r.all_in for r in plain])


def _sound(own: Sequence[PolicyResult], rng: np.random.Generator) -> SoundPlayed:
    well = [r.gone and r.parts == 0 and r.checks <= SOUND_CHECKS for r in own]
    return SoundPlayed(
        ended_well=interval(well, rng), checks=interval([r.checks for r in own], rng)
    )


def _money(own: Sequence[PolicyResult], weights: Floats, rng: np.random.Generator) -> Money:
    """Return what was said of money and how it was, every check counted alike, by machines on which
    one was made."""
    some = [(r, r.foretold, w * r.of) for r, w in zip(own, weights, strict=True) if r.foretold]
    counts = np.array([weight for _, _, weight in some])
    return Money(
        costs=interval([told.expected for _, told, _ in some], rng, counts),
        paid=interval([r.all_in - told.paid for r, told, _ in some], rng, counts),
        saves=interval([told.saving for _, told, _ in some], rng, counts),
        saved=interval([r.without - r.all_in for r, _, _ in some], rng, counts),
    )


def _calibration(own: Sequence[PolicyResult]) -> list[SaidShare]:
    bins: dict[int, list[PolicyResult]] = {}
    for result in own:
        bins.setdefault(min(int((result.said or 0) * 10), 9), []).append(result)
    return [
        SaidShare(
            said=round(float(np.mean([r.said for r in members])), 3),
            true=round(float(np.mean([r.right for r in members])), 3),
            jobs=len(members),
        )
        for _, members in sorted(bins.items())
    ]


def interval(
    values: Sequence[float],
    rng: np.random.Generator,
    weights: Floats | None = None,
    over: Sequence[float] | None = None,
) -> Share:
    """Return the mean by ``weights`` (n,), over that of ``over`` if given, with its bootstrap
    interval, drawn from those that weigh anything."""
    if not len(values):
        return Share(mean=0.0, low=0.0, high=0.0)
    counts = np.ones(len(values)) if weights is None else np.asarray(weights)
    own = np.flatnonzero(counts)
    counts = counts[own]
    figures = np.asarray(values, dtype=float)[own] * counts
    below = counts if over is None else np.asarray(over, dtype=float)[own] * counts
    drawn = rng.integers(0, len(figures), (DRAWS, len(figures)))
    ratios = figures[drawn].sum(axis=1) / below[drawn].sum(axis=1)
    low, high = np.percentile(ratios, (2.5, 97.5))
    mean = float(figures.sum() / below.sum())
    return Share(mean=round(mean, 4), low=round(float(low), 4), high=round(float(high), 4))


def ready() -> None:
    threadpool_limits(limits=1, user_api="blas")


@lru_cache(maxsize=1)
def workshop() -> Workshop:
    return open_workshop(None)


@lru_cache(maxsize=32)
def _model(archetype: str, disturb: bool) -> tuple[DiagnosisModel, dict[float, Floats]]:
    """Return the model of an archetype, of the library or disturbed, and its priors by age in
    years."""
    shelf = workshop().shelf
    machine = shelf.machine(archetype)
    if disturb:
        machine = disturbed(machine, shelf.tables.doubts, archetype)
    model = workshop().engine.model(machine)
    return model, {age: prior(model, age, shelf.tables.engine) for age in AGES}
