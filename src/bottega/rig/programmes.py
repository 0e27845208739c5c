"""What boards run: programmes of phases by the sheet's figures, and the steps of service mode."""

from collections.abc import Mapping
from dataclasses import dataclass
from difflib import get_close_matches
from typing import Literal

from bottega.core.library.machine_type import MachineType
from bottega.core.library.sheet import Programme
from bottega.rig.units import MINUTE_S

Kind = Literal["lock", "fill", "wash", "drain", "spin", "dry", "unlock"]
SHORT, BATH = "short", "bath"
"""The programmes every machine has: each function in turn, and one bath of a wash, warm where the
machine heats."""
BATH_L_SHARE, BATH_C, BATH_S = 0.6, 30.0, 900.0
"""Water of that bath, over that of a wash; its warmth; and how long it lasts at least, in second.
Chosen: it is warm after half of its time."""
WASH_RPM = 48.0
"""How fast a drum turns in the wash, or a plate makes its strokes, in turns a minute; chosen."""
SHIFTING_RPM = 140.0
"""How fast a basket turns while the shifter is tried; chosen, a little above where it spreads its
load."""
DRIES_S = 1200.0
"""How long a dryer is run to see whether it dries, in second; chosen, until it is warm."""
WASHES_FIRST_S, SPINS_FIRST_S = 7200.0, 600.0
"""What of a programme that washes and dries, or spins and dries, is not drying, in second;
chosen."""
OPENS_S, TURNED_S, SPUN_FOR_S, HEATED_S, RINSED_S = 20.0, 45.0, 50.0, 260.0, 30.0
"""Seconds of a service step's unlocking, of turning, of a full spin, of heating and of a rinse in
steps and in the short programme. Chosen."""
WARM_C, RINSE_SHARE = 60.0, 0.7
"""Warmth that is asked for there, and a rinse's water over that of a wash. Chosen."""
FILLS_L_MIN, RINSE_ELSE_S, ENDS_S, FULL_SPIN_S = 6.0, 240.0, 600.0, 180.0
"""By which a card's minutes are shared out: litres a minute of filling; what a rinse takes beside
it; the end with its spin; and that spin at full speed. Chosen."""
BETWEEN_RPM, BETWEEN_S = 600.0, 20.0
"""Speed of the spins between baths at most, and how long they last; chosen."""
RINSES = 2
TOP_LOADERS = frozenset({"TS", "TD", "TG", "SL"})
LIES_L, STANDS_L = 13.0, 38.0
"""Water of a wash where no sheet says it, in litre: front loaders and top loaders; chosen."""
SPIN_RPM = {"TG": 620.0, "TS": 680.0, "SL": 680.0, "TD": 780.0, "FI": 850.0}
SPIN_ELSE_RPM = 1150.0
COLD_C = 5.0
"""What a wash without heating is set to, in °C."""


class NoSuchProgramme(KeyError):
    """A programme or service step this machine has not."""

    def __init__(self, wanted: str, known: list[str]) -> None:
        near = get_close_matches(wanted, known, n=1)
        hint = f", nearest is '{near[0]}'" if near else ""
        self.message = f"found the programme '{wanted}', expected one of {', '.join(known)}{hint}"
        super().__init__(self.message)

    def __str__(self) -> str:
        return self.message


@dataclass(frozen=True)
class Phase:
    """One phase: what it does, for how many seconds at least, and to what: litres, °C, or turns
    a minute."""

    kind: Kind
    seconds: float = 0.0
    litres: float = 0.0
    temperature_c: float = COLD_C
    rpm: float = 0.0
    hot: bool = False


def heated(machine: MachineType) -> bool:
    """Return whether a machine heats its water."""
    return "element" in machine.components


def wash_litres(machine: MachineType) -> float:
    """Return the water of a wash where the programme does not say it."""
    return STANDS_L if machine.archetype in TOP_LOADERS else LIES_L


def spin_rpm(machine: MachineType) -> float:
    """Return the full spin: the plate's, else that of its kind."""
    return machine.plate.spin_rpm or SPIN_RPM.get(machine.archetype, SPIN_ELSE_RPM)


def steps_of(machine: MachineType) -> dict[str, tuple[Phase, ...]]:
    """Return what service mode can be made to do, by the name recipes use."""
    full, litres = spin_rpm(machine), wash_litres(machine) / 2
    shut = (Phase("lock"),) if machine.loads == "front" else ()
    steps: dict[str, tuple[Phase, ...]] = {
        "lock": (Phase("lock"), Phase("unlock", OPENS_S)),
        "fill": (Phase("fill", litres=litres),),
        "turn": (*shut, Phase("wash", TURNED_S)),
        "drain": (Phase("drain"),),
        "spin": (
            Phase("lock"),
            Phase("spin", SPUN_FOR_S, rpm=full),
            Phase("unlock", OPENS_S),
        ),
    }
    if heated(machine):
        steps["heat"] = (*shut, Phase("wash", HEATED_S, temperature_c=WARM_C))
    if "fan" in machine.components:
        steps["dry"] = (*shut, Phase("dry", DRIES_S))
    if machine.calibration.phases:
        steps["calibrate"] = calibrating(machine)
    return steps


def calibrating(machine: MachineType) -> tuple[Phase, ...]:
    """Return what the machine does while it learns its own weights and places, by the phases of
    its sheet: each for its minutes, with the door locked where it spins."""
    full, litres = spin_rpm(machine), wash_litres(machine) / 2
    shut = (Phase("lock"),) if machine.loads == "front" else ()
    phases: list[Phase] = []
    for phase in machine.calibration.phases:
        seconds = phase.minutes * MINUTE_S
        phases += {
            "fill": (Phase("fill", litres=litres),),
            "turning": (*shut, Phase("wash", seconds)),
            "spin": (
                Phase("lock"),
                Phase("spin", seconds, rpm=full),
                Phase("unlock", OPENS_S),
            ),
            "drain_flow": (Phase("drain"),),
            "shifter_moves": (
                Phase("lock"),
                Phase("spin", seconds, rpm=SHIFTING_RPM),
                Phase("unlock", OPENS_S),
            ),
        }.get(phase.effect, ())
    return tuple(phases)


def short_of(machine: MachineType) -> tuple[Phase, ...]:
    """Return a programme that uses every function once, in about twelve minutes."""
    litres, full = wash_litres(machine), spin_rpm(machine)
    warm = WARM_C if heated(machine) else COLD_C
    phases = [
        Phase("lock"),
        Phase("fill", litres=litres),
        Phase("wash", HEATED_S, temperature_c=warm),
        Phase("drain"),
        Phase("fill", litres=litres * RINSE_SHARE),
        Phase("wash", RINSED_S),
        Phase("drain"),
        Phase("spin", SPUN_FOR_S, rpm=full),
    ]
    if "fan" in machine.components:
        phases.append(Phase("dry", DRIES_S))
    return (*phases, Phase("unlock", MINUTE_S))


def bath_of(machine: MachineType) -> tuple[Phase, ...]:
    """Return one bath of a wash, by which a programme's warmth and length are judged."""
    warm = BATH_C if heated(machine) else COLD_C
    return (
        Phase("lock"),
        Phase("fill", litres=BATH_L_SHARE * wash_litres(machine)),
        Phase("wash", BATH_S, temperature_c=warm),
        Phase("drain"),
        Phase("unlock", MINUTE_S),
    )


def whole_of(machine: MachineType, programme: Programme) -> tuple[Phase, ...]:
    """Return the phases of a programme of the sheet by its card: its water, its heat, its
    minutes and its spin."""
    dries = "fan" in machine.components and "dry" in programme.name.lower()
    full = spin_rpm(machine) if programme.spin_rpm is None else programme.spin_rpm
    minutes = programme.minutes or MINUTE_S
    lock_s = MINUTE_S * (programme.lock_minutes if programme.lock_minutes is not None else 1)
    if dries and programme.fill_l is None:
        dry_s = max(DRIES_S, minutes * MINUTE_S - SPINS_FIRST_S)
        spun = (Phase("lock"), Phase("spin", FULL_SPIN_S, rpm=full), Phase("dry", dry_s))
        return (*spun, Phase("unlock", lock_s))
    litres = programme.fill_l or wash_litres(machine)
    rinse = (litres + 2) / FILLS_L_MIN * MINUTE_S + RINSE_ELSE_S
    others = RINSES * rinse + ENDS_S
    dry_s = max(DRIES_S, minutes * MINUTE_S - WASHES_FIRST_S) if dries else 0.0
    wash_s = max(HEATED_S, minutes * MINUTE_S - dry_s - others)
    warm = programme.temperature_c if programme.temperature_c and heated(machine) else COLD_C
    phases = [Phase("lock"), Phase("fill", litres=litres, hot=programme.fill != "cold")]
    phases.append(Phase("wash", wash_s, temperature_c=warm))
    between = [Phase("spin", BETWEEN_S, rpm=min(full, BETWEEN_RPM))] if full else []
    for _ in range(RINSES):
        phases += [Phase("drain"), *between, Phase("fill", litres=litres), Phase("wash", MINUTE_S)]
    phases.append(Phase("drain"))
    if full:
        phases.append(Phase("spin", FULL_SPIN_S, rpm=full))
    if dries:
        phases.append(Phase("dry", dry_s))
    return (*phases, Phase("unlock", lock_s))


def programmes_of(machine: MachineType) -> dict[str, str]:
    """Return the names of what can be run, by id: the sheet's programmes and the short one."""
    bath = f"One bath at {BATH_C:g} °C" if heated(machine) else "One bath"
    return {SHORT: "Every function in turn", BATH: bath} | {
        _named(machine, key): p.name for key, p in machine.programmes.items()
    }


def _named(machine: MachineType, programme: str) -> str:
    """Return what a programme of the sheet is asked for by: its id, unless a step is called so."""
    return f"{programme}_programme" if programme in steps_of(machine) else programme


def phases_of(machine: MachineType, name: str) -> tuple[Phase, ...]:
    """Return the phases of a programme or service step. Raises NoSuchProgramme."""
    known: Mapping[str, tuple[Phase, ...]] = steps_of(machine)
    own = {SHORT: short_of, BATH: bath_of}
    if name in own:
        return own[name](machine)
    whole = {_named(machine, key): programme for key, programme in machine.programmes.items()}
    if name in whole:
        return whole_of(machine, whole[name])
    if name not in known:
        raise NoSuchProgramme(name, [*own, *whole, *known])
    return known[name]
