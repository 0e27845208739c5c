"""How often a code is read right that somebody taps along with, and how long decoding takes."""

from collections.abc import Sequence
from dataclasses import replace
from random import Random
from time import perf_counter
from typing import Literal, get_args

import numpy as np
from pydantic import BaseModel

from bottega.app.workshop import open_workshop
from bottega.core.library.machine_type import Code, MachineType
from bottega.core.library.panel_record import PanelRecord
from bottega.core.library.tables import PanelTable
from bottega.core.panel.decoder import RHYTHMS, PanelError
from bottega.core.panel.encoder import BEAT_S, DARK_S, shown
from bottega.core.panel.heard import heard
from bottega.core.panel.notation import written
from bottega.core.panel.rhythm import Tap, counted, rounds_of
from bottega.core.panel.seen import seen, seen_text

Unshipped = Literal["flash_trains", "beeps"]
UNSHIPPED: tuple[Unshipped, ...] = get_args(Unshipped)
"""Ways of showing that none of our sheets has, and a shop may well meet."""
MADE_UP_MOST = 6
"""Flashes or beeps of a group in the tables made up for them; chosen."""
JITTER = 0.12
"""Spread of a person's taps as a share of the gap before them, one standard deviation."""
MISCOUNTED = 0.05
"""Share of flashes that are dropped or doubled, half of them each."""
QUICK = 0.4
"""A flash tapped twice is tapped again after this share of the usual gap; chosen."""
TWITCH_S = 0.1
"""How long a key is held that is struck once too often, in seconds; chosen."""
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
    """Return how every code of every sheet is read, and of tables made up for the ways no sheet
    has; those that take time are tapped along with by ``people`` each."""
    workshop = open_workshop(None)
    slips, rng = workshop.shelf.tables.panel, Random(seed)
    one, three, taken = [], [], []
    ways: dict[str, list[bool]] = {}
    sheets = [machine for machine in workshop.shelf.machines() if machine.panel]
    for machine in [*sheets, *(made_up(sheets[0], kind) for kind in UNSHIPPED)]:
        kind = machine.panel.kind if machine.panel else ""
        for code in machine.codes.values():
            ways.setdefault(kind, []).append(_comes_back(machine, code, slips))
            for _ in range(people if kind in RHYTHMS else 0):
                taps = tapped(machine, code, rng)
                started = perf_counter()
                three.append(_right(machine, code, taps, slips))
                taken.append(1000 * (perf_counter() - started))
                one.append(_right(machine, code, taps[:1], slips))
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


def made_up(machine: MachineType, kind: Unshipped) -> MachineType:
    """Return a machine whose panel shows the same meanings in a way no sheet of ours has: two
    groups of up to six each."""
    lamps = ("red", "green") if kind == "flash_trains" else ("first group", "second group")
    panel = PanelRecord(
        kind=kind, lamps=lamps, most_flashes=MADE_UP_MOST, how="In two groups.", entry=(), clear=()
    )
    pairs = [(a, b) for a in range(1, MADE_UP_MOST + 1) for b in range(1, MADE_UP_MOST + 1)]
    spread = pairs[:: max(1, len(pairs) // len(machine.codes))]
    codes = {}
    for show, code in zip(spread, machine.codes.values(), strict=False):
        name = written(panel, show)
        codes[name] = replace(
            code, id=name, record=code.record.model_copy(update={"show": show, "text": None})
        )
    return replace(machine, panel=panel, codes=codes)


def tapped(machine: MachineType, code: Code, rng: Random) -> list[list[Tap]]:
    """Return what somebody taps who watches a code three times over, a list each round; what is
    held is held as unevenly as the gaps are."""
    assert machine.panel is not None
    rounds = []
    for _ in range(ROUNDS):
        train = shown(machine.panel, code).taps
        taps, now = [], 0.0
        for n, tap in enumerate(train):
            held = tap.held_s * max(0.2, rng.gauss(1.0, JITTER)) if tap.held_s else 0.0
            slip = rng.random()
            if slip >= MISCOUNTED / 2:
                taps.append(Tap(now, tap.lamp, held))
            after = train[n + 1].at_s - tap.at_s - tap.held_s if n + 1 < len(train) else 1.0
            usual = DARK_S if tap.held_s else BEAT_S
            now += held
            if slip >= 1 - MISCOUNTED / 2:
                taps.append(Tap(now + QUICK * usual, tap.lamp, min(held, TWITCH_S)))
            now += after * max(0.2, rng.gauss(1.0, JITTER))
        rounds.append(taps)
    return rounds


def _right(
    machine: MachineType, code: Code, rounds: Sequence[Sequence[Tap]], slips: PanelTable
) -> bool:
    assert machine.panel is not None
    groups = 1 if machine.panel.kind == "melody" else len(machine.panel.lamps)
    whole = [taps for taps in rounds if len(taps) >= groups]
    try:
        first = heard(machine, counted(machine.panel, whole), slips).first.code
    except PanelError:
        return False
    return first is not None and first.id == code.id


def _comes_back(machine: MachineType, code: Code, slips: PanelTable) -> bool:
    panel = machine.panel
    assert panel is not None
    showing = shown(panel, code, rounds=ROUNDS)
    if panel.kind == "display":
        return seen_text(machine, showing.text, slips).first.code == code
    if panel.kind not in RHYTHMS:
        return seen(machine, showing.lit, slips).first.code == code
    rounds = counted(panel, rounds_of(panel, showing.taps))
    return heard(machine, rounds, slips).first.code == code


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
