"""How often a code is read right that somebody taps along with, and how long decoding takes."""

from collections.abc import Sequence
from random import Random
from time import perf_counter

import numpy as np
from pydantic import BaseModel

from bottega.app.workshop import open_workshop
from bottega.core.library.machine_type import Code, MachineType
from bottega.core.library.tables import EngineTable
from bottega.core.panel.decoder import decode, decode_text
from bottega.core.panel.encoder import shown
from bottega.core.panel.heard import heard
from bottega.core.panel.rhythm import Tap, counted, rounds_of

JITTER = 0.12
"""Spread of a person's taps as a share of the gap before them, one standard deviation."""
MISCOUNTED = 0.05
"""Share of flashes that are dropped or doubled, half of them each."""
QUICK = 0.4
"""A flash tapped twice is tapped again after this share of the gap to the next; chosen."""
ROUNDS = 3


class Percentiles(BaseModel):
    """Milliseconds."""

    p50: float
    p95: float


class PanelBench(BaseModel):
    """What was measured, with the seed that reproduces it."""

    seed: int
    codes: int
    trains: int
    right_after_one: float
    right_after_three: float
    decode_ms: Percentiles
    ways: dict[str, float]
    """By the way a panel shows its codes, the share of all codes that come back from what is shown
    for them, seen without a mistake."""


def bench_panel(seed: int, people: int) -> PanelBench:
    """Return how every code of every sheet is read; those that flash or beep are tapped by
    ``people`` each."""
    workshop = open_workshop(None)
    engine, rng = workshop.shelf.tables.engine, Random(seed)
    one, three, taken = [], [], []
    ways: dict[str, list[bool]] = {}
    for machine in workshop.shelf.machines():
        panel = machine.panel
        for code in machine.codes.values() if panel else ():
            kind = panel.kind if panel else ""
            ways.setdefault(kind, []).append(_comes_back(machine, code, engine))
            for _ in range(people if kind in ("flash_trains", "beeps") else 0):
                taps = tapped(machine, code, rng)
                started = perf_counter()
                three.append(_right(machine, code, taps, engine))
                taken.append(1000 * (perf_counter() - started))
                one.append(_right(machine, code, taps[:1], engine))
    workshop.close()
    p50, p95 = (float(value) for value in np.percentile(taken, (50, 95)))
    return PanelBench(
        seed=seed,
        codes=sum(len(own) for own in ways.values()),
        trains=len(three),
        right_after_one=round(float(np.mean(one)), 4),
        right_after_three=round(float(np.mean(three)), 4),
        decode_ms=Percentiles(p50=round(p50, 3), p95=round(p95, 3)),
        ways={kind: round(float(np.mean(own)), 4) for kind, own in ways.items()},
    )


def tapped(machine: MachineType, code: Code, rng: Random) -> list[list[Tap]]:
    """Return what somebody taps who watches a code three times over, a list each round."""
    assert machine.panel is not None
    rounds = []
    for _ in range(ROUNDS):
        train = shown(machine.panel, code).taps
        taps, now, before = [], 0.0, 0.0
        for n, tap in enumerate(train):
            gap = tap.at_s - before
            now += gap * max(0.2, rng.gauss(1.0, JITTER)) if n else 0.0
            before = tap.at_s
            slip = rng.random()
            if slip >= MISCOUNTED / 2:
                taps.append(Tap(now, tap.lamp))
            if slip >= 1 - MISCOUNTED / 2:
                after = train[n + 1].at_s - tap.at_s if n + 1 < len(train) else 1.0
                taps.append(Tap(now + QUICK * min(after, 1.0), tap.lamp))
        rounds.append(taps)
    return rounds


def _right(
    machine: MachineType, code: Code, rounds: Sequence[Sequence[Tap]], engine: EngineTable
) -> bool:
    assert machine.panel is not None
    whole = [taps for taps in rounds if len(taps) >= len(machine.panel.lamps)]
    counts = counted(machine.panel, whole)
    first = heard(machine, counts, engine).first.code if counts else None
    return first is not None and first.id == code.id


def _comes_back(machine: MachineType, code: Code, engine: EngineTable) -> bool:
    panel = machine.panel
    assert panel is not None
    seen = shown(panel, code, rounds=ROUNDS)
    if panel.kind == "display":
        return decode_text(machine, seen.text).code == code
    if panel.kind in ("lamp_pattern", "lamp_weights"):
        sums = (
            seen.lit[0]
            if panel.kind == "lamp_pattern"
            else tuple(sum(np.multiply(lit, panel.weights).tolist()) for lit in seen.lit)
        )
        return decode(machine, sums).code == code
    rounds = counted(panel, rounds_of(panel, seen.taps))
    return heard(machine, rounds, engine).first.code == code


def panel_rows(bench: PanelBench) -> tuple[str, list[tuple[str, str, str]]]:
    """Return the head and the rows of the table."""
    head = f"{bench.codes} codes, {bench.trains} trains tapped, seed {bench.seed}"
    rows = [
        ("right code first after one round", f"{bench.right_after_one:.1%}", ">= 90 %"),
        ("right code first after three", f"{bench.right_after_three:.1%}", ">= 98 %"),
        ("decoding three rounds, p95", f"{bench.decode_ms.p95:.2f} ms", "< 5 ms"),
        *(
            (f"{kind.replace('_', ' ')}, come back", f"{share:.1%}", "100 %")
            for kind, share in sorted(bench.ways.items())
        ),
    ]
    return head, rows
