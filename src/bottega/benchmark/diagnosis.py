"""Measure the engine: how fast it answers, what memory it takes, how near its plans come to the
optimum."""

from collections.abc import Callable
from datetime import UTC, datetime
from multiprocessing import get_context
from pathlib import Path
from random import Random
from tempfile import TemporaryDirectory
from time import perf_counter

import numpy as np
from pydantic import BaseModel

from bottega.app.job.answer import diagnose_events
from bottega.app.workshop import Workshop, open_workshop, ready_to_serve
from bottega.benchmark.optimum import exact_cost, followed_cost
from bottega.benchmark.patient import drawn
from bottega.benchmark.policies import most_bits
from bottega.benchmark.reduced import cut_out, random_puzzle
from bottega.core.diagnosis.prior import prior
from bottega.core.diagnosis.repairplan import NOTHING_WRONG
from bottega.core.job.events import (
    AnyBody,
    Checked,
    Complained,
    Event,
    Opened,
    Repaired,
    Withdrawn,
)
from bottega.core.library.machine_type import MachineType
from bottega.core.shop import ShopSettings

NOBODY = "bench"
CHECKS_A_JOB = 8
"""Checks that are followed; chosen, the longest a good plan needs."""
AGES = (0.5, 2, 4, 7, 11, 16)
"""Ages of the machines, in years; chosen, from early faults to worn ones."""
TARGET_P95_MS, TARGET_MEAN, TARGET_MAX = 25.0, 1.02, 1.10
TARGET_MB, TARGET_LOAD_S = 150.0, 1.0
"""Targets: milliseconds, cost over the optimum, megabytes, seconds. Chosen."""


class Latency(BaseModel):
    """Milliseconds from an evidence change to the full answer."""

    p50: float
    p95: float
    p99: float


class OptimumRatio(BaseModel):
    """The plan's expected cost over the exact optimum, on models small enough to know it, and that
    of asking what tells most bits a minute."""

    mean: float
    max: float
    information: float
    cases: int


class DiagnosisBench(BaseModel):
    """What was measured, with the seed that reproduces it."""

    seed: int
    answers: int
    archetypes: int
    latency_ms: Latency
    optimum_ratio: OptimumRatio
    optimum_ratio_prove_first: OptimumRatio
    """The same where a part has to be proved before it is fitted, the shop's default."""
    load_s: float
    memory_mb: float


def bench_diagnosis(
    seed: int, jobs: int, puzzles: int, say: Callable[[str], None]
) -> DiagnosisBench:
    """Return the measures over ``jobs`` made-up jobs an archetype and ``puzzles`` small models of
    each kind.

    The library is loaded first, so that in a fresh process its time and the memory are those of a
    start; only the first start after the library changed reads its texts.
    """
    with TemporaryDirectory() as name:
        folder = Path(name)
        _make_shop(folder)
        started = perf_counter()
        workshop = open_workshop(folder)
        machines = [workshop.shelf.machine(name) for name in workshop.shelf.archetypes]
        loaded = perf_counter() - started
        try:
            return _measured(workshop, machines, loaded, seed, jobs=jobs, puzzles=puzzles, say=say)
        finally:
            workshop.close()


def _make_shop(folder: Path) -> None:
    """Make the shop of a data folder in a process of its own, so that this one opens it as every
    start but the first does."""
    making = get_context("spawn").Process(target=_opened, args=(folder,))
    making.start()
    making.join()


def _opened(folder: Path) -> None:
    open_workshop(folder).close()


def _measured(
    workshop: Workshop,
    machines: list[MachineType],
    loaded: float,
    seed: int,
    *,
    jobs: int,
    puzzles: int,
    say: Callable[[str], None],
) -> DiagnosisBench:
    say(
        f"library loaded in {loaded:.2f} s; answering {jobs} jobs on each of {len(machines)} "
        "archetypes"
    )
    for machine in machines:
        _follow(workshop, machine, Random(seed - 1))
    ready_to_serve()
    taken = [
        t
        for machine in machines
        for n in range(jobs)
        for t in _follow(workshop, machine, Random(seed + n))
    ]
    memory = peak_mb()
    say(f"{len(taken)} answers timed; pricing the optimum of small models")
    swapping, proving = (
        optimum_ratios(workshop, machines, seed, puzzles, prove_at=prove_at)
        for prove_at in (0.0, ShopSettings().prove_at)
    )
    p50, p95, p99 = (float(value) for value in np.percentile(taken, (50, 95, 99)))
    return DiagnosisBench(
        seed=seed,
        answers=len(taken),
        archetypes=len(machines),
        latency_ms=Latency(p50=round(p50, 2), p95=round(p95, 2), p99=round(p99, 2)),
        optimum_ratio=swapping,
        optimum_ratio_prove_first=proving,
        load_s=round(loaded, 2),
        memory_mb=round(memory, 1),
    )


def peak_mb() -> float:
    """Return the most memory this process has had, in megabytes; 0 where the system does not
    say."""
    try:
        import resource
    except ImportError:
        return 0.0
    return resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024


def as_table(bench: DiagnosisBench) -> str:
    """Return the measures beside their targets, a line each."""
    ms, ratio, proving = bench.latency_ms, bench.optimum_ratio, bench.optimum_ratio_prove_first
    rows = [
        ("evidence to full answer, p50", f"{ms.p50:.1f} ms", ""),
        ("evidence to full answer, p95", f"{ms.p95:.1f} ms", f"< {TARGET_P95_MS:.0f} ms"),
        ("evidence to full answer, p99", f"{ms.p99:.1f} ms", ""),
        ("plan over exact optimum, mean", f"{ratio.mean:.4f}", f"<= {TARGET_MEAN:.2f}"),
        ("plan over exact optimum, worst", f"{ratio.max:.4f}", f"<= {TARGET_MAX:.2f}"),
        ("most bits a minute over it, mean", f"{ratio.information:.4f}", ""),
        ("the same proving first, mean", f"{proving.mean:.4f}", f"<= {TARGET_MEAN:.2f}"),
        ("the same proving first, worst", f"{proving.max:.4f}", f"<= {TARGET_MAX:.2f}"),
        ("most bits a minute, proving first", f"{proving.information:.4f}", ""),
        ("library load, compiled", f"{bench.load_s:.2f} s", f"< {TARGET_LOAD_S:.1f} s"),
        ("memory with every model", f"{bench.memory_mb:.0f} MB", f"< {TARGET_MB:.0f} MB"),
    ]
    head = (
        f"{bench.answers} answers on {bench.archetypes} archetypes, {ratio.cases} small "
        f"models, seed {bench.seed}"
    )
    return table(head, rows)


def table(head: str, rows: list[tuple[str, str, str]]) -> str:
    """Return a bench table: what, the figure, the target."""
    lines = [head, "", f"{'measure':<36}{'figure':>12}   target"]
    return "\n".join(
        [*lines, *(f"{what:<36}{figure:>12}   {target}" for what, figure, target in rows)]
    )


def optimum_ratios(
    workshop: Workshop, machines: list[MachineType], seed: int, puzzles: int, *, prove_at: float
) -> OptimumRatio:
    """Return what following the plan costs over the optimum, on ``puzzles`` small models of each
    kind by the seed."""
    tables = workshop.shelf.tables
    models = [workshop.engine.model(machine) for machine in machines]
    cases = [random_puzzle(seed + n, prove_at=prove_at) for n in range(puzzles)]
    cases += [
        cut_out(models[n % len(models)], seed + n, tables.engine, prove_at=prove_at)
        for n in range(puzzles)
    ]
    least = np.array([exact_cost(case, tables) for case in cases])
    ratios = np.array([followed_cost(case, tables) for case in cases]) / least
    greedy = np.array([followed_cost(case, tables, most_bits) for case in cases]) / least
    return OptimumRatio(
        mean=round(float(np.mean(ratios)), 4),
        max=round(float(ratios.max()), 4),
        information=round(float(greedy.mean()), 4),
        cases=len(ratios),
    )


def _follow(workshop: Workshop, machine: MachineType, rng: Random) -> list[float]:
    """Return the milliseconds of each answer while a made-up job follows the first recommendation:
    checks, where nothing more is worth checking a repair, and halfway a check taken back."""
    age, settings = rng.choice(AGES), ShopSettings()
    patient = drawn(machine, _faults(workshop, machine, age, rng), rng)
    bodies: list[AnyBody] = [
        Opened(
            archetype=machine.archetype,
            age_years=age,
            place="bench",
            power="on",
            water="out",
        ),
        Complained(text="made up", said=tuple(patient.complaints())),
    ]
    taken = []
    for n in range(CHECKS_A_JOB + 1):
        events = [_event(n, body) for n, body in enumerate(bodies)]
        workshop.beliefs.clear()
        started = perf_counter()
        answer = diagnose_events(workshop, "bench", events, settings, machine=machine)
        answer.weights()
        taken.append((perf_counter() - started) * 1000)
        step, repairs = answer.plan.next, answer.plan.ends.repairs
        if n == CHECKS_A_JOB // 2 and isinstance(bodies[-1], Checked):
            bodies.append(Withdrawn(event=events[-1].id, reason="made up"))
        elif step is not None:
            outcome = patient.answer_by(step.check, rng)
            showed = patient.showed(step.check, outcome)
            bodies.append(
                Checked(check=step.check.id, outcome=outcome, showed=showed, note="made up")
            )
        elif repairs and repairs[0] != NOTHING_WRONG:
            bodies.append(Repaired(repair=repairs[0]))
            ended = {fault for fault, _ in machine.repairs[repairs[0]].covers}
            patient = drawn(machine, tuple(f for f in patient.faults if f not in ended), rng)
        else:
            break
    return taken


def _faults(workshop: Workshop, machine: MachineType, age: float, rng: Random) -> tuple[str, ...]:
    """Return the faults of a machine of that age, in years: one set drawn by its prior."""
    model = workshop.engine.model(machine)
    chances = prior(model, age, workshop.shelf.tables.engine)[1:]
    (row,) = rng.choices(range(1, len(model.sets)), chances.tolist())
    return tuple(model.fault_ids[f] for f in model.sets[row].tolist() if f >= 0)


def _event(place: int, body: AnyBody) -> Event:
    return Event(
        id=f"bench-{place:06d}", at=datetime(2030, 1, 1, tzinfo=UTC), author=NOBODY, body=body
    )
