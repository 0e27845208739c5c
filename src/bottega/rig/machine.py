"""The machine: every subsystem stepped together at one fixed rate, driven by its board and by
what people do to it."""

from collections.abc import Callable, Sequence
from dataclasses import replace
from functools import lru_cache
from math import hypot, log, pi, sqrt
from operator import attrgetter
from random import Random

from bottega.core.library.machine_type import MachineType
from bottega.rig.air_loop import AirLoop
from bottega.rig.board import Board
from bottega.rig.circuit import RATED_HERTZ, Contacts, Fed, fed_of
from bottega.rig.drives import DRIVES
from bottega.rig.drying import air
from bottega.rig.heat import Warmth
from bottega.rig.laundry import held_l_kg
from bottega.rig.loads import heat, lock
from bottega.rig.parameters import joints, parameters
from bottega.rig.programmes import Phase, phases_of, spin_rpm
from bottega.rig.sensing import LevelCurve, Sensing
from bottega.rig.specimen import Specimen
from bottega.rig.state import STEP_S, Asks, Now, Seen
from bottega.rig.timer import Timer
from bottega.rig.turning import drum, turning_of
from bottega.rig.units import MICRO
from bottega.rig.values import Values
from bottega.rig.water import trapped_pa, tub_of
from bottega.rig.wet import most_inlet, water

ALIVE_SHARE = 0.5
"""Share of its rated volts from which a board's supply works; chosen, switching supplies go on far
below what valves and pumps need."""
ALIVE_V = 4.5
"""Least low voltage a board works with."""
RUNOUT_KGM_MM, TRUE_MM, RING_KGM, LEAST_WEIGHT = 0.06, 2.5, 0.3, 0.2
"""Unbalance for each millimetre a support is crooked, from what on; that of a balance ring without
its liquid; and the least a counterweight is counted. Chosen."""
LONGER_SHARE, LONGEST_S, STARTS_OHM, TRIPS_AT, CURVE_L = 1.5, 30_000.0, 30.0, 3.0, 120
"""How much longer a wash is that a customer took another for; the longest run; the contact of a
timer from which it starts nothing; the times of its rated current at which a breaker trips within a
step (IEC 60898, B); litres a level curve goes to. Chosen but for the breaker."""
DRUM_KG = 8.0
"""Weight of a drum, which play in its bearings lets off its centre; chosen."""
EMPTY_KGM = 0.01
"""Unbalance of an empty drum, in kilogram metre; chosen, ten grams at its rim and the lifters'."""
SUDS_FROM_G, SUDS_FULL_G = 110.0, 130.0
SWITCHED = ("cold", "hot", "pump", "element", "lock", "shifter", "fan", "drying", "condenser")
"""Loads whose contact closes while the board asks for them; the motor's closes while it is to
turn."""
_switched_on = attrgetter(*SWITCHED)
HOUR_S, SETTLES_S = 3600.0, 6 * 3600.0
"""How often a standing machine is looked at, and after what time whatever still flows has settled,
in second; chosen."""
STANDBY_W, STANDBY_FACTOR = 2.0, 0.4
"""What a board with its display takes, and the power factor of its supply; usual of such boards."""
NOTICED_SHARE = 1e-4
"""Share of its volts below which a load gets none: it comes through what should not conduct."""


class Machine:
    """One specimen while some of its faults act. ``v`` are its values now, ``now`` how it
    stands, ``seen`` what there was to notice; step it, or run a programme."""

    def __init__(self, specimen: Specimen, acting: frozenset[str], *, empty: bool = False) -> None:
        """Set a machine up; ``empty`` without laundry, as one that is worked on."""
        self.specimen = specimen
        self.kind = specimen.machine.archetype
        self.acting = acting
        self.empty = empty
        self.v = self._values()
        self.plugged, self.tap_open, self.door_shut = True, True, True
        self.asks, self.now, self.seen = Asks(), Now(), Seen()
        self.board = board_of(self.kind)((), self.kind, self.asks, self.seen)
        self._dials = 0
        self.programme = ""
        """The programme or step that was started last."""
        self.tub = tub_of(
            self.v.tub_lies > 0,
            self.v.tub_radius_m,
            self.v.tub_length_m,
            self.v.sump_l,
            sump_m=self.v.sump_m,
        )
        self.curve = level_curve(self.kind, specimen.machine.sheet)
        self.warmth = Warmth(self.v)
        self.air = AirLoop(self.v)
        self.sensing = Sensing(
            self.v,
            self.kind,
            specimen.sound.level_zero_hz,
            self.curve,
            now=self.now,
            warmth=self.warmth,
            air=self.air,
            door_shut=lambda: self.door_shut,
        )
        self.drive = DRIVES[self.kind]
        self.wiring = specimen.machine.wiring
        self._follow()
        self.telemetry: Callable[[Machine], None] | None = None

    def _follow(self) -> None:
        """Work out what follows from the values and stays while they do."""
        opened = ((joint, hole_mm2(self.v, name)) for name, joint in joints().items())
        self.holes = [(joint, mm2) for joint, mm2 in opened if mm2 > 0]
        self.inlet_l_min = most_inlet(self)
        self.turning = turning_of(self.v, self.kind)
        self._fed: dict[tuple[bool, ...], Fed] = {}
        """What reaches its parts, by the contacts that are closed, found once."""
        self.fed = self._feeds(self.asks.rpm > 0)
        self.tight = not self.holes and not self.volts_share("pump", at_rest=True)
        """Whether water stays where it is unless it is let in or pumped out."""
        self.still_l = -1.0
        """Litres in the tub at which nothing moves them or their height any more."""
        self._weigh_unbalance()

    def _weigh_unbalance(self) -> None:
        """Work out the unbalance as the laundry lies."""
        runout = RUNOUT_KGM_MM * max(0.0, self.v.support_runout_mm - TRUE_MM)
        runout += RING_KGM * (1 - self.v.ring_liquid_share)
        laundry = self.v.unbalance_kgm * self.now.lies_share
        runout += DRUM_KG * self.v.bearing_play_mm / 1000
        self.unbalance = (laundry + runout) / max(LEAST_WEIGHT, self.v.weight_share)
        self.shake: dict[int, tuple[float, float]] = {}
        """By speed, how hard it pulls at the feet, and by how many millimetre the tub goes beyond
        its travel, found once."""

    def _values(self) -> Values:
        values = self.specimen.values(self.acting)
        return values.but(load_kg=0.0, unbalance_kgm=EMPTY_KGM) if self.empty else values

    def let_act(self, acting: frozenset[str]) -> None:
        """Let exactly these of its faults act from now on; how it stands does not change."""
        self.acting = acting
        self.v.update(self._values())
        self._follow()

    @property
    def alive(self) -> bool:
        """Whether its board or timer has current and works."""
        return self.now.volts > ALIVE_SHARE * self.v.rated_v and (
            self.kind == "TG" or self.v.board_volts > ALIVE_V
        )

    def start(self, programme: str) -> None:
        """Choose a programme or service step and start it. Raises NoSuchProgramme."""
        phases = self._as_read(phases_of(self.specimen.machine, self._dialled(programme)))
        self.programme = programme
        self.seen.figures.pop("finished", None)
        self.board = board_of(self.kind)(
            phases,
            self.kind,
            self.asks,
            self.seen,
            off_share=self.v.board_sense_off_share,
            stands=self.v.timer_stuck > 0.5,
        )
        self.asks.nothing()
        self.asks.motor_cut = False
        if _only_dries(phases) and not self.warmth.litres:
            self._put_in_damp()

    def _dialled(self, programme: str) -> str:
        """Return the programme that a dial stands at: one that slips stands at the sheet's next now
        and then."""
        own = list(self.specimen.machine.programmes)
        self._dials += 1
        chance = Random(f"{self.specimen.seed}:dial:{self._dials}").random()
        if programme not in own or chance > self.v.dial_slip_share:
            return programme
        return own[(own.index(programme) + 1) % len(own)]

    def _as_read(self, phases: tuple[Phase, ...]) -> tuple[Phase, ...]:
        """Return the phases that run where a customer took another programme for this one: its wash
        is half as long again."""
        if self.v.misread < 0.5:
            return phases
        longer = (LONGER_SHARE * p.seconds if p.kind == "wash" else p.seconds for p in phases)
        return tuple(replace(p, seconds=s) for p, s in zip(phases, longer, strict=True))

    def run(
        self, programme: str, most_s: float = LONGEST_S, stop: Callable[[], bool] | None = None
    ) -> None:
        """Run a programme or step to its end, or for at most so many seconds, however long the
        machine takes."""
        self.start(programme)
        begun = self.now.seconds
        self._power()
        if self.alive:
            self.seen.put("alive", 1.0)
        if not self.alive or not self.takes_start:
            self.seen.put("stopped_start", 1.0)
            self.board.done = True
        while not self.board.done and self.now.seconds - begun < most_s:
            self.step()
            if not self.alive:
                break
            if stop is not None and stop():
                break
        self.seen.put("run_s", self.now.seconds - begun)

    def wait(self, seconds: float) -> None:
        """Let time pass. Only the first six hours are stepped through: after them a machine at rest
        stays at rest, and water flows on as in the last hour. Raises ValueError for less than
        none."""
        if seconds < 0:
            raise ValueError(f"found {seconds:g} seconds, expected none or more")
        begun = self.now.seconds
        ends = begun + round(seconds / STEP_S) * STEP_S
        flows_l = self._flowed()
        while self.now.seconds < min(ends, begun + SETTLES_S):
            if seconds > SETTLES_S and (self.now.seconds - begun) % HOUR_S == 0:
                flows_l = self._flowed()
                if self.now.seconds > begun and self.rests:
                    break
            self.step()
        if ends > self.now.seconds:
            self._go_on((ends - self.now.seconds) / HOUR_S, flows_l)
            self.now.seconds = ends

    def _flowed(self) -> tuple[float, float]:
        """Return the litres that came in so far, and those that went."""
        return self.now.water_in_l, self.now.water_out_l + self.now.leaked_l

    def _go_on(self, hours: float, before: tuple[float, float]) -> None:
        """Let water flow for so many hours as it has flowed since ``before``, an hour ago: what the
        tub cannot hold runs over, and no more drips out of it than there is."""
        came, went = (now - then for now, then in zip(self._flowed(), before, strict=True))
        litres, now, warmth = hours * came, self.now, self.warmth
        now.water_in_l += litres
        warmth.pour(litres, self.v.cold_tap_c)
        over = max(hours * went, warmth.free_l - self.v.spills_l)
        now.leaked_l += warmth.drain(over)
        now.tub_l = warmth.free_l
        now.height_m = self.tub.height_m(now.tub_l)

    @property
    def rests(self) -> bool:
        """Whether nothing moves, flows or is warmer than the room any more."""
        now, room_c = self.now, self.v.room_c
        moves = now.drum_rpm or now.in_l_min or now.out_l_min or now.hose_l
        warmest = max(self.warmth.water_c, self.warmth.element_c, now.motor_c, now.lock_c)
        return self.board.phase is None and not moves and warmest < room_c + 1 and self.air.rests

    def step(self) -> None:
        """Advance everything by one step of half a second."""
        self._power()
        if self.alive:
            self.board.decide(self.sensing, STEP_S)
        else:
            self.asks.nothing()
        now = self.now
        now.ampere = now.watts = 0.0
        now.taken.clear()
        self.feed()
        self._stand_by()
        lock(self)
        water(self)
        heat(self)
        drum(self)
        if self.has_fan:
            air(self)
        self._protect()
        now.seconds += STEP_S
        if self.telemetry is not None:
            self.telemetry(self)

    def _stand_by(self) -> None:
        """Let the board take what it works with, and a timer nothing."""
        if self.alive and self.kind != "TG":
            self.flows("board", STANDBY_W / (STANDBY_FACTOR * self.now.volts), STANDBY_W)

    def _put_in_damp(self) -> None:
        """Put laundry in as it comes out of a spin, for a programme that only dries."""
        litres = held_l_kg(spin_rpm(self.specimen.machine), self.v.drum_radius_m) * self.v.load_kg
        self.warmth.pour(litres, self.v.room_c)
        self.warmth.held_l = litres
        self.now.water_by_hand_l += litres

    @property
    def has_fan(self) -> bool:
        """Whether it dries."""
        return self.kind == "WD"

    @property
    def lamps_light(self) -> bool:
        """Return whether every lamp of its panel lights."""
        return self.v.lamps_dead < 1

    @property
    def takes_start(self) -> bool:
        """Return whether keys, dial and demo mode let a programme begin."""
        v = self.v
        return v.demo_mode < 0.5 and v.keys_dead < 0.5 and v.timer_contact_ohm < STARTS_OHM

    def lie_anew(self) -> None:
        """Let the laundry lie another way in the drum: of so many pieces the centre of mass is a
        random walk's end in a plane, whose distance is Rayleigh's, with the mean of this load."""
        now = self.now
        now.lies += 1
        chance = Random(f"{self.specimen.seed}:lies:{now.lies}").random()
        now.lies_share = sqrt(-log(1 - chance) / (pi / 4))
        self._weigh_unbalance()

    # Power

    def _power(self) -> None:
        """Find the volts at the board by the resistance of the way from the wall."""
        v, now = self.v, self.now
        line = v.mains_source_ohm + v.outlet_ohm + 2 * v.cord_ohm + v.fuse_ohm + 2 * v.filter_ohm
        if not self.plugged or now.tripped or line > 1000:
            now.volts = 0.0
            return
        now.volts = max(0.0, v.mains_v - now.ampere * line)

    def _feeds(self, turns: bool) -> Fed:
        """Return what reaches its parts as its contacts stand, with the motor's closed where it is
        to turn."""
        key = (self.sensing.contact, turns, *_switched_on(self.asks))
        if key not in self._fed:
            closed = self.closed - {"motor"} | ({"motor"} if turns else set())
            self._fed[key] = fed_of(self.wiring, self.v, Contacts(closed, turns=turns))
        return self._fed[key]

    @property
    def closed(self) -> frozenset[str]:
        """The loads whose contacts are closed now, and the lock's contact where it is."""
        asks = self.asks
        found = {load for load, on in zip(SWITCHED, _switched_on(asks), strict=True) if on}
        found |= {"motor"} if asks.rpm > 0 and not asks.motor_cut else set()
        return frozenset(found | ({"lock_contact"} if self.sensing.contact else set()))

    def feed(self) -> None:
        """Let the contacts that are asked for feed its parts."""
        self.fed = self._feeds(self.asks.rpm > 0 and not self.asks.motor_cut)

    def volts_at(self, load: str) -> float:
        """Return the volts across a load as its contact and everything before it stand."""
        return self.now.volts * self.volts_share(load)

    def volts_share(self, load: str, *, at_rest: bool = False) -> float:
        """Return the share of the board's volts that reaches a load; one too small to notice counts
        as none. ``at_rest`` means with every contact open, as those of an idle machine are."""
        share = (self._idle() if at_rest else self.fed).shares.get(load, 0.0)
        return share if share > NOTICED_SHARE else 0.0

    def _idle(self) -> Fed:
        return fed_of(self.wiring, self.v, Contacts(frozenset({"lock_contact"})))

    @property
    def motor_stuck(self) -> bool:
        """Whether its motor is fed though nothing asks it to turn."""
        feeds = self._feeds(turns=False)
        return feeds.shares.get("motor", 0.0) > NOTICED_SHARE

    def take(self, volts: float, load: str) -> None:
        """Let a load take its current by its impedance, and its watts: what warms its winding, and
        what it works."""
        now, v = self.now, self.v
        coil, reactance = v[load + "_coil_ohm"], v[load + "_reactance_ohm"]
        ampere = volts / hypot(coil, reactance * v.hertz / RATED_HERTZ)
        works = v[load + "_works_w"] * (volts / now.volts) ** 2 if now.volts else 0.0
        self.flows(load, ampere, min(ampere * ampere * coil + works, ampere * volts))

    def flows(self, load: str, ampere: float, watts: float) -> None:
        """Let so much flow through a load in this step."""
        now = self.now
        now.ampere += ampere
        now.watts += watts
        now.taken[load] = (ampere, watts)

    def _protect(self) -> None:
        """Trip where too much flows, or too much of it comes back by earth."""
        v, now = self.v, self.now
        across = now.volts / v.filter_across_ohm
        now.cabinet_v = now.volts * self.fed.cabinet
        now.leakage_a = now.volts * self.fed.leakage_per_ohm
        self.seen.most("cabinet_v", now.cabinet_v)
        self.seen.most("leakage_a", now.leakage_a)
        if now.ampere + across > TRIPS_AT * v.breaker_a or now.leakage_a > v.leakage_trips_a:
            now.tripped = True
            self.seen.put("tripped", 1.0)

    @property
    def suds_share(self) -> float:
        """How much suds there are, by the dose over what is right; nought to one."""
        return max(0.0, min(1.0, (self.v.dose_g - SUDS_FROM_G) / SUDS_FULL_G))


def hole_mm2(v: Values, joint: str) -> float:
    """Return the hole of a joint, in square millimetre: torn into it, and opened by what holds or
    touches it."""
    opened = joints()[joint].opened_by.items()
    return v[f"{joint}_mm2"] + sum(max(0.0, (v[n] - low) * mm2) for n, (low, mm2) in opened)


def _only_dries(phases: Sequence[Phase]) -> bool:
    """Return whether a programme dries and takes no water before."""
    kinds = {phase.kind for phase in phases}
    return "dry" in kinds and "fill" not in kinds


def board_of(kind: str) -> type[Board]:
    """Return what runs the programmes of a kind: a board, or a timer."""
    return Timer if kind == "TG" else Board


@lru_cache(maxsize=64)
def level_curve(kind: str, sheet: str | None) -> LevelCurve:
    """Return the board's table from pressure to litres, of a machine of nominal sizes."""
    figures = parameters(kind, sheet)
    tub = tub_of(
        figures["tub_lies"].value > 0,
        figures["tub_radius_m"].value,
        figures["tub_length_m"].value,
        figures["sump_l"].value,
        sump_m=figures["sump_m"].value,
    )
    litres = [n / 2 for n in range(2 * CURVE_L)]
    chamber, area = figures["chamber_ml"].value * MICRO, figures["chamber_mm2"].value * MICRO
    mouth = figures["chamber_mouth_m"].value
    return LevelCurve(
        [trapped_pa(tub.height_m(at) - mouth, chamber, area) for at in litres], litres
    )


def machine_of(
    machine: MachineType, seed: str, faults: dict[str, float] | None = None, occasion: str = "0"
) -> Machine:
    """Return a machine of a type, drawn by a seed, with faults by severity. Raises FaultError."""
    specimen = Specimen(machine, seed, faults or {})
    return Machine(specimen, specimen.acting(occasion))
