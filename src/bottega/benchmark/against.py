"""Hold this engine against another checkout of it: both are measured by their own command, in turn,
so that what else the machine does meets both alike."""

from collections.abc import Callable
from pathlib import Path
from statistics import median

from pydantic import BaseModel

from bottega.benchmark.diagnosis import table
from bottega.benchmark.served import HERE, figures_of, source_of


class MiddleFigures(BaseModel):
    """The middle figures of several rounds: milliseconds, seconds, megabytes."""

    p50_ms: float
    p95_ms: float
    load_s: float
    memory_mb: float


class Against(BaseModel):
    """Here and there, and here over there."""

    rounds: int
    here: MiddleFigures
    there: MiddleFigures
    ratio: MiddleFigures


def bench_against(
    path: Path, seed: int, jobs: int, rounds: int, *, say: Callable[[str], None]
) -> Against:
    """Return both engines' figures from ``rounds`` rounds of the same made-up ``jobs`` an
    archetype. Raises NotBottega."""
    found: dict[str, list[MiddleFigures]] = {"here": [], "there": []}
    for n in range(rounds):
        for name, source in (("here", HERE), ("there", source_of(path))):
            found[name].append(_measured(source, seed, jobs))
            say(f"round {n + 1} of {rounds}, {name}: p95 {found[name][-1].p95_ms:.1f} ms")
    here, there = (_middle(found[name]) for name in ("here", "there"))
    ratio = {key: round(value / getattr(there, key), 3) for key, value in here}
    return Against(rounds=rounds, here=here, there=there, ratio=MiddleFigures(**ratio))


def as_table(against: Against) -> str:
    """Return both figures and their ratio, a line a measure."""
    rows = (
        ("evidence to full answer, p50", "p50_ms", "ms"),
        ("evidence to full answer, p95", "p95_ms", "ms"),
        ("library load", "load_s", "s"),
        ("memory with every model", "memory_mb", "MB"),
    )
    return table(
        f"here and there, in turn, {against.rounds} rounds",
        [
            (
                words,
                f"{getattr(against.here, key):.2f} {unit}",
                f"there {getattr(against.there, key):.2f} {unit}, "
                f"ratio {getattr(against.ratio, key):.2f}",
            )
            for words, key, unit in rows
        ],
    )


def _measured(source: Path, seed: int, jobs: int) -> MiddleFigures:
    words = ["--seed", str(seed), "--jobs", str(jobs), "--puzzles", "1"]
    bench = figures_of(source, "diagnosis", *words)
    latency = bench["latency_ms"]
    return MiddleFigures(
        p50_ms=latency["p50"],
        p95_ms=latency["p95"],
        load_s=bench["load_s"],
        memory_mb=bench["memory_mb"],
    )


def _middle(rounds: list[MiddleFigures]) -> MiddleFigures:
    return MiddleFigures(
        **{key: median(getattr(r, key) for r in rounds) for key in MiddleFigures.model_fields}
    )
