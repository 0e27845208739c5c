"""The board: phases with their time-outs, what it watches, what it stores. It knows only what
its sensors tell it."""

from collections.abc import Sequence
from typing import Protocol

from bottega.rig.programmes import COLD_C, TOP_LOADERS, WASH_RPM, Phase
from bottega.rig.state import Asks, Seen

FILL_LIMIT_S, DRAIN_LIMIT_S = 480.0, 240.0
"""How long filling and emptying may take before the board gives up; chosen, as boards do."""
HEAT_LOOK_S, HEAT_LEAST_K = 220.0, 1.6
"""After how long of heating the board wants to see how many kelvin; chosen."""
USUAL_L, MUCH_L = 13.0, 40.0
"""Water the least rise is meant for, and water up to which the limits are: more takes longer."""
LOCK_TRIES, LOCK_S = 3, 6.0
TURN_ON_S, TURN_OFF_S = 10.0, 5.0
SPREAD_RPM = 92.0
STANDS_S = 1800.0
"""How long people watch a phase that does not end, in second; chosen."""
PULSES_WITHIN_S = 2.0
"""Within how long of a start the board wants to see the drum turn; chosen."""
RAMP_RPM_S = 14.0
"""How fast the speed that is asked for rises in a spin, in turns a minute and second; chosen."""
PLATEAUS_RPM, PLATEAU_S = (400.0, 800.0), 20.0
"""Speeds at which a front loader's spin stays a while for the water that comes out, and how long;
chosen."""
RUNAWAY_SHARE, RUNAWAY_RPM, RUNAWAY_S = 1.3, 60.0, 1.5
"""A drum that grows ever faster, over so many times what is asked and so many turns a minute more,
for so many seconds, races; chosen."""
UNEVEN_PHASES_S = 3.0
"""How long an inverter may miss the current of a phase before the board stops; chosen."""
SPIN_LATE_S = 75.0
"""How long a ramp may lag behind before the board calls it a spin that is not reached; chosen."""
EMPTY_L, SPIN_BELOW_L = 0.7, 2.0
OVER_SHARE = 1.6
"""Over so many times the water asked for the board pumps; chosen."""
STANDS_RPM = 5.0
"""Below this a board takes a drum for standing; chosen, one pulse of the slowest sensor in a
second."""
BLIND_S = 150.0
"""How long a board waits where no pulse tells it that the drum stands; chosen, twice the longest
coasting."""
OPENS_BELOW_L, OPENS_BELOW_C = 4.0, 55.0
"""Water and warmth over which a front loader's door stays locked; chosen under the sill, and below
what scalds within seconds."""
KEPT_SHUT_S = 900.0
"""How long a programme's end waits for a door that may not be opened yet; chosen."""
LOCK_LOST_S = 1.0
"""How long a lock's contact may be gone before the board stops; chosen, a bounce is shorter."""
UNLOCKS_WITHIN_S = 150.0
"""How long after it was let go a lock may stay shut; chosen, three times what it needs."""
UNEVEN_KGM, TOO_UNEVEN_KGM = 0.22, 0.42
"""Unbalance from which a board spins slower, and not at all; chosen."""
SPREADS_ANEW, SPREADS_S, SLOWS_S = 8, 26.0, 6.0
"""How often a front loader tumbles laundry anew that lies too far off centre, before the spin is
given up; the seconds of each try; the seconds of it in which the drum slows. Chosen: boards try
five to twenty times."""
DRY_PUMPS_EVERY_S, DRY_PUMPS_S = 60.0, 12.0
"""How often, and how long, the pump runs while it dries; chosen."""
AIR_MOST_C = 95.0
"""Warmth of the drying air from which the board lets its heater rest; chosen."""
COOLS_S = 480.0
"""How long the laundry cools at the end of a drying programme, in second; chosen."""
COOLS_OF = 4
"""How many times as long as its cooling a drying programme has to be to cool at all; chosen."""
LOCK_RESTS_S = 3.0
"""Pause between two tries at a lock, in second; chosen."""
OVER_L, TOPPED_L, TOP_UPS_S, HEATS_FROM_L = 3.0, 2.5, 120.0, 5.0
"""Litres over which the board pumps; below which it tops up, and steps it does so in all; the least
it heats. Chosen."""
HEATS_MOST_S, SHORT_WASH_S, EMPTY_S = 2400.0, 400.0, 12.0
"""How long a wash waits for its warmth beyond its time, from what length on it waits at all, and
how long a pump runs on once the tub reads empty. Chosen."""
TURNS_RPM, SHIFTS_WITHIN_S, SPREADS_FOR_S, UNEVEN_RPM = 6.0, 25.0, 14.0, 600.0
"""Speed from which a drum counts as turning; time a shifter gets; time laundry is spread before it
is weighed; speed at which uneven laundry is spun. Chosen."""
BEHIND_SHARE, BEHIND_RPM, NO_PULSES_S = 0.8, 10.0, 6.0
"""Below which speed a spin lags, and how long a spin goes on without pulses. Chosen."""
RANGE_OHM = (300.0, 200_000.0)
"""Thermistor readings a board believes."""


class Sensed(Protocol):
    """What a board can know of its machine."""

    @property
    def level_l(self) -> float | None:
        """Litres by its curve; None without a signal."""

    @property
    def ntc_ohm(self) -> float:
        """Resistance on the thermistor's input."""

    @property
    def water_by_ntc_c(self) -> float:
        """What its table makes of that."""

    @property
    def speed_rpm(self) -> float | None:
        """Drum's speed by its pulses; None without any."""

    @property
    def phases_carry(self) -> bool:
        """Whether every phase of an inverter that drives carries current."""

    @property
    def air_c(self) -> float | None:
        """Warmth of the drying air by its sensor; None without a signal."""

    @property
    def contact(self) -> bool:
        """Whether the lock says that it is shut."""

    @property
    def shifted(self) -> bool:
        """Whether the shifter says it stands where it was sent."""

    @property
    def uneven_kgm(self) -> float:
        """Unbalance by the ripple of the speed."""


class Board:
    """Runs one list of phases. ``stopped`` names the phase it gave up in; ``codes`` what it
    stored, by meaning."""

    def __init__(
        self,
        phases: Sequence[Phase],
        kind: str,
        asks: Asks,
        seen: Seen,
        *,
        off_share: float = 0.0,
        stands: bool = False,
    ) -> None:
        self.phases = list(phases)
        self.kind = kind
        self.asks = asks
        self.seen = seen
        self.at = 0
        self.since = 0.0
        self.codes: list[str] = []
        self.stopped: str | None = None
        self.done = not self.phases
        self.off_share = off_share
        self.stands = stands
        """Whether its timer does not advance: a phase that ends by time never ends."""
        self._stood = 0.0
        self._tries = self._top_ups = 0
        self._heat_since: float | None = None
        self._heat_from_c = 0.0
        self._no_heat = False
        self.meant_rpm = 0.0
        """What the drum should do in this beat of the wash, by the programme."""
        self._still = 0.0
        self._late = 0.0
        self._run_on = 0.0
        self._target = 0.0
        self._asked = 0.0
        self.spread_anew, self._spreads_s = 0, 0.0
        """How often this spin has let the laundry fall; for how many seconds it still tumbles."""
        self._litres = 0.0
        self.keeps_shut = False
        """Whether the door is locked by this board's will."""
        self._races_s = self._before_rpm = self._uneven_s = self._holds_s = 0.0
        self._lost_s = self._asked_none_s = self._let_go_s = 0.0

    @property
    def phase(self) -> Phase | None:
        """Return the phase it is in, None when it has ended."""
        return None if self.done else self.phases[self.at]

    def decide(self, sensed: Sensed, dt: float) -> None:
        """Ask of the loads what the phase wants, for the next ``dt`` seconds. A board that has
        ended, or given up, goes on keeping a door shut that had better not be opened."""
        self._asked_none_s = 0.0 if self.asks.rpm else self._asked_none_s + dt
        if self._races(sensed, dt):
            self.asks.motor_cut = True
            self._store("racing")
            if not self.done:
                self._give_up(self.phases[self.at].kind, None)
        if self.done:
            self.asks.lock = self.keeps_shut = self.keeps_shut and not self._may_open(sensed)
            return
        phase = self.phases[self.at]
        if self.stands:
            self._stood += dt
            if self._stood > STANDS_S:
                self._give_up(phase.kind, None)
                return
        else:
            self.since += dt
        self.seen.add(f"in_{phase.kind}_s", dt)
        if self._lost_its_lock(phase, sensed, dt):
            self._give_up(phase.kind, "not_locked")
            return
        if self._misses_a_phase(sensed, dt):
            self._give_up(phase.kind, "not_turning")
            return
        getattr(self, f"_{phase.kind}")(phase, sensed, dt)
        if self.done:
            self.asks.nothing()
            self.asks.lock = self.keeps_shut

    def _may_open(self, sensed: Sensed) -> bool:
        """Return whether a door may be opened: the drum stands, and of a front loader the water is
        low and no longer hot. Without a signal the board waits, and of water it let in and does
        not see, it thinks the worst."""
        speed = sensed.speed_rpm
        stands = self._asked_none_s > BLIND_S if speed is None else speed < STANDS_RPM
        if self.kind in TOP_LOADERS or not stands:
            return stands
        level = sensed.level_l
        low = self._litres == 0 if level is None else level < OPENS_BELOW_L
        return low and sensed.water_by_ntc_c < OPENS_BELOW_C

    def _lost_its_lock(self, phase: Phase, sensed: Sensed, dt: float) -> bool:
        """Return whether the door that was locked is not any more, in a phase that wants it so."""
        if self.kind in TOP_LOADERS or phase.kind in ("lock", "unlock") or not self.keeps_shut:
            return False
        self._lost_s = 0.0 if sensed.contact else self._lost_s + dt
        return self._lost_s > LOCK_LOST_S

    def _races(self, sensed: Sensed, dt: float) -> bool:
        """Return whether the drum grows ever faster than it was asked to turn."""
        speed = sensed.speed_rpm or 0.0
        faster = speed > RUNAWAY_SHARE * self.asks.rpm + RUNAWAY_RPM and speed > self._before_rpm
        self._races_s = self._races_s + dt if faster else 0.0
        self._before_rpm = speed
        return self._races_s > RUNAWAY_S

    def _misses_a_phase(self, sensed: Sensed, dt: float) -> bool:
        """Return whether an inverter that drives has missed the current of a phase for a while."""
        missing = self.asks.rpm > 0 and not sensed.phases_carry
        self._uneven_s = self._uneven_s + dt if missing else 0.0
        return self._uneven_s > UNEVEN_PHASES_S

    def _next(self) -> None:
        self.at += 1
        self.meant_rpm = self._stood = 0.0
        self.since = self._late = self._run_on = self._target = self._still = 0.0
        self._tries = self.spread_anew = 0
        self._heat_since = None
        self._let_go_s = 0.0
        lock = self.asks.lock
        self.asks.nothing()
        if self.at >= len(self.phases):
            self.done = True
            self.seen.put("finished", 1.0)
            return
        self.asks.lock = lock and self.phases[self.at].kind != "unlock"

    def _give_up(self, phase: str, code: str | None) -> None:
        if code is not None:
            self._store(code)
        self.stopped = phase
        self.seen.put(f"stopped_{phase}", 1.0)
        self.end()

    def end(self) -> None:
        """Leave the programme where it is; nothing is asked of any load any more."""
        self.done = True
        self.meant_rpm = 0.0
        self.asks.nothing()

    @property
    def _more(self) -> float:
        """How much longer filling and emptying may take, for the water there is to be."""
        return max(1.0, self._litres / MUCH_L)

    def _store(self, code: str) -> None:
        """Store a code once."""
        if code not in self.codes:
            self.codes.append(code)

    def _lock(self, phase: Phase, sensed: Sensed, dt: float) -> None:
        self.asks.lock = True
        if self.since <= dt:
            self._tries += 1
            self.seen.add("lock_tries", 1.0)
        if sensed.contact:
            self.seen.put("lock_shut", 1.0)
            self.keeps_shut = True
            self._next()
        elif self.since > LOCK_S:
            if self._tries >= LOCK_TRIES:
                self._give_up("start", "not_locked")
            elif self.since > LOCK_S + LOCK_RESTS_S:
                self.since = 0.0
            else:
                self.asks.lock = False

    def _fill(self, phase: Phase, sensed: Sensed, dt: float) -> None:
        level = sensed.level_l
        if level is None:
            self._give_up("fill", "level")
            return
        self._litres = phase.litres
        self.asks.cold = True
        self.asks.hot = phase.hot
        self.seen.add("fill_asked_s", dt)
        if level >= phase.litres:
            self._next()
        elif self.since > FILL_LIMIT_S * self._more:
            self._give_up("fill", "filling")

    def _wash(self, phase: Phase, sensed: Sensed, dt: float) -> None:
        level = sensed.level_l
        if level is None:
            self._give_up("wash", "level")
            return
        if self._litres and level > OVER_SHARE * self._litres + OVER_L:
            self._store("overfilled")
            self.asks.pump = True
        else:
            self.asks.pump = False
        self.asks.cold = (
            bool(self._litres) and level < self._litres - TOPPED_L and self._top_ups < TOP_UPS_S
        )
        self._top_ups += self.asks.cold
        self._turn(sensed, dt)
        self._warm(phase, sensed, level)
        warm_enough = phase.temperature_c <= COLD_C or self._no_heat or self._reached(phase, sensed)
        if self.since >= phase.seconds and (
            warm_enough or self.since > phase.seconds + HEATS_MOST_S or phase.seconds < SHORT_WASH_S
        ):
            self._next()

    def _reached(self, phase: Phase, sensed: Sensed) -> bool:
        return sensed.water_by_ntc_c >= phase.temperature_c

    def _turn(self, sensed: Sensed, dt: float) -> None:
        on = self._beats()
        self.asks.rpm = self.meant_rpm = WASH_RPM if on else 0.0
        if not on or self.since % (TURN_ON_S + TURN_OFF_S) < PULSES_WITHIN_S:
            return
        speed = sensed.speed_rpm
        if speed is None:
            self.asks.rpm = 0.0
        if speed is None or speed < TURNS_RPM:
            self._still += dt
            if self._still > 2 * (TURN_ON_S - PULSES_WITHIN_S):
                self._give_up("wash", "no_speed" if speed is None else "not_turning")
        else:
            self._still = 0.0

    def _beats(self) -> bool:
        """Return whether the wash turns now, or rests between two beats."""
        return self.since % (TURN_ON_S + TURN_OFF_S) < TURN_ON_S

    def _warm(self, phase: Phase, sensed: Sensed, level: float) -> None:
        if phase.temperature_c <= COLD_C or self._no_heat:
            self.asks.element = False
            return
        low, high = RANGE_OHM
        if not low < sensed.ntc_ohm < high:
            self._store("thermistor")
            self._no_heat = True
            self.asks.element = False
            return
        at_c = sensed.water_by_ntc_c
        self.asks.element = at_c < phase.temperature_c and level > HEATS_FROM_L
        if self.asks.element and self._heat_since is None:
            self._heat_since, self._heat_from_c = self.since, at_c
        if self._heat_since is not None and self.since - self._heat_since > HEAT_LOOK_S:
            least = HEAT_LEAST_K * USUAL_L / max(USUAL_L, level)
            if at_c - self._heat_from_c < least and at_c < phase.temperature_c - 2:
                self._store("heating")
                self._no_heat = True
                self.asks.element = False
            self._heat_since, self._heat_from_c = self.since, at_c

    def _drain(self, phase: Phase, sensed: Sensed, dt: float) -> None:
        self.asks.pump = True
        self.seen.add("drain_asked_s", dt)
        level = sensed.level_l
        if level is None or level < EMPTY_L:
            self._run_on += dt
            if self._run_on > EMPTY_S:
                self._next()
        elif self.since > DRAIN_LIMIT_S * self._more:
            self._give_up("drain", "emptying")

    def _spin(self, phase: Phase, sensed: Sensed, dt: float) -> None:
        asks, level = self.asks, sensed.level_l
        asks.pump = True
        self.seen.put("spin_entered", 1.0)
        if level is not None and level > SPIN_BELOW_L:
            if self.since > DRAIN_LIMIT_S * self._more:
                self._give_up("drain", "emptying")
            self.since = self.since if level > SPIN_BELOW_L else 0.0
            return
        if self.kind in TOP_LOADERS and not self._shut(sensed, dt):
            return
        asks.shifter = True
        if self.kind in ("TS", "SL") and not sensed.shifted:
            self._late += dt
            if self._late > SHIFTS_WITHIN_S:
                self._give_up("spin", "not_spinning")
            return
        if self._spreads_s > 0:
            self._spreads_s -= dt
            asks.rpm = WASH_RPM if self._spreads_s < SPREADS_S - SLOWS_S else 0.0
            return
        if self._target == 0.0:
            self._run_on, self._late, self._target = 0.0, 0.0, SPREAD_RPM
            self._asked = 0.0
        self._ramp(phase, sensed, dt)

    def _shut(self, sensed: Sensed, dt: float) -> bool:
        """Return whether the lid is locked for the spin, trying where it is not; give up after
        some tries."""
        self.asks.lock = True
        if sensed.contact:
            self.seen.put("lock_shut", 1.0)
            return True
        beat = self.since % (LOCK_S + LOCK_RESTS_S)
        if (self.since - dt) % (LOCK_S + LOCK_RESTS_S) < dt / 2:
            self.seen.add("lock_tries", 1.0)
        self.asks.lock = beat < LOCK_S
        if self.since > LOCK_TRIES * (LOCK_S + LOCK_RESTS_S):
            self._give_up("spin", "not_locked")
        return False

    def _ramp(self, phase: Phase, sensed: Sensed, dt: float) -> None:
        asks, speed = self.asks, sensed.speed_rpm
        self._run_on += dt
        if self._target == SPREAD_RPM and self._run_on > SPREADS_FOR_S:
            uneven = sensed.uneven_kgm
            if uneven > TOO_UNEVEN_KGM:
                self._let_tumble()
                return
            self._target = min(phase.rpm, UNEVEN_RPM if uneven > UNEVEN_KGM else phase.rpm)
            self._run_on = 0.0
        if self._stays(dt):
            self._run_on -= dt
        else:
            self._asked = min(self._target, self._asked + RAMP_RPM_S * dt)
        asks.rpm = self._asked
        behind = speed is None or speed < BEHIND_SHARE * self._asked - BEHIND_RPM
        self._late = self._late + dt if behind else max(0.0, self._late - dt)
        if speed is None and self._late > NO_PULSES_S:
            self._give_up("spin", "no_speed")
        elif self._late > SPIN_LATE_S:
            code = "not_turning" if speed is not None and speed < TURNS_RPM else "not_spinning"
            self._give_up("spin", code)
        elif self._run_on > phase.seconds + self._target / RAMP_RPM_S and self._target > SPREAD_RPM:
            self._next()

    def _stays(self, dt: float) -> bool:
        """Return whether the spin stays at a plateau for now, on its way to the full speed."""
        if self.kind in TOP_LOADERS:
            return False
        step = RAMP_RPM_S * dt
        at = any(rpm <= self._asked < rpm + step for rpm in PLATEAUS_RPM if rpm < self._target)
        self._holds_s = self._holds_s + dt if at else 0.0
        return 0 < self._holds_s <= PLATEAU_S

    def _let_tumble(self) -> None:
        """Let laundry that lies too far off centre fall and tumble, to be spread anew; give the
        spin up after some times, and at once on a top loader, whose laundry stays where it is."""
        self.spread_anew += 1
        if self.kind in TOP_LOADERS or self.spread_anew > SPREADS_ANEW:
            self._give_up("spin", None)
            return
        self._spreads_s, self._target = SPREADS_S, 0.0

    def _dry(self, phase: Phase, sensed: Sensed, dt: float) -> None:
        self.asks.rpm = WASH_RPM if self._beats() else 0.0
        asks, level = self.asks, sensed.level_l
        asks.fan = asks.condenser = True
        asks.pump = self.since % DRY_PUMPS_EVERY_S < DRY_PUMPS_S
        air_c = sensed.air_c
        cools = phase.seconds > COOLS_OF * COOLS_S and self.since > phase.seconds - COOLS_S
        asks.drying = air_c is not None and air_c < AIR_MOST_C and not cools
        if level is not None and level > SPIN_BELOW_L:
            self._late += dt
            asks.condenser, asks.pump = False, True
            if self._late > DRAIN_LIMIT_S:
                self._give_up("drain", "emptying")
                return
        if self.since > phase.seconds:
            self._next()

    def _unlock(self, phase: Phase, sensed: Sensed, dt: float) -> None:
        waits = self.since < phase.seconds or not self._may_open(sensed)
        self.asks.nothing()
        self.asks.lock = self.keeps_shut = self.keeps_shut and waits
        if waits:
            if self.since > phase.seconds + KEPT_SHUT_S:
                self._give_up("unlock", "not_unlocked")
            return
        self._let_go_s += dt
        if not sensed.contact:
            self.seen.put("opens", 1.0)
            self._next()
        elif self._let_go_s > UNLOCKS_WITHIN_S:
            self._give_up("unlock", "not_unlocked")
