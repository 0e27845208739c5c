"""What a hand does to the whole machine: plug and taps, programmes, water, its panel and door, its
posture, and the pace of its time."""

from dataclasses import dataclass, replace

from bottega.app.errors import BadValue, Refused
from bottega.app.rig.in_hand import one_act, refuse_in_hand
from bottega.app.rig.law import measured_charge, refuse
from bottega.app.rig.service import acts_at, by_the_book
from bottega.app.rig.stand import RATES, Stand
from bottega.app.values import whole
from bottega.app.workshop import Workshop
from bottega.rig.programmes import programmes_of, steps_of

NOT_IN_SERVICE = "It is not in its service mode. Enter it by the keys, as its sheet says."


@dataclass(frozen=True)
class LiveTest:
    """The check that plugging in is declared for, and who says that he may; both empty where
    nothing is declared."""

    check: str = ""
    by: str = ""


NOTHING_DECLARED = LiveTest()


def act(
    workshop: Workshop,
    name: str,
    what: str,
    value: str,
    *,
    seen: int,
    live: LiveTest = NOTHING_DECLARED,
) -> Stand:
    """Do one thing to a machine. Raises Stale where somebody else did something since, Refused for
    what may not be, BadValue for what cannot be done."""
    with one_act(workshop, name, seen) as found:
        does = ACTS.get(what, _unknown)
        refuse(found, what, value, live.check)
        does(found, value)
        tested = found.machine_type.checks.get(live.check)
        if what == "plug" and tested is not None and found.machine.plugged:
            found.hands = replace(found.hands, live_test=tested.id)
            found.say(f"A live test, by {live.by}: {tested.name}")
    return found


def _unknown(at: Stand, value: str) -> None:
    raise BadValue(
        f"Found an act the rig does not know, expected one of {', '.join(ACTS)}.", "what"
    )


def _plug(at: Stand, value: str) -> None:
    """Put the plug in or pull it. Raises Refused to put it in where the machine's job has it
    out."""
    if value == "in" and at.followed is not None and at.followed.power == "off":
        refuse_in_hand(at, "plug")
    at.hands = at.hands.changed(
        "power", "on" if value == "in" else "off", at.machine_type.charge is not None
    )
    filled = at.machine.now.in_l_min > 0
    if value == "in":
        at.plug_in()
    else:
        at.unplug()
    at.machine.step()
    at.say(f"The plug is {'in' if at.machine.plugged else 'out'}")
    if filled and not at.machine.plugged:
        at.say("Water runs on" if at.machine.now.in_l_min > 0.05 else "The water stops at once")


def _taps(at: Stand, value: str) -> None:
    at.machine.tap_open = value == "open"
    at.say(f"The taps are {'open' if at.machine.tap_open else 'shut'}")


def _start(at: Stand, value: str) -> None:
    known = {**programmes_of(at.machine_type), **dict.fromkeys(steps_of(at.machine_type), "")}
    if value not in known:
        raise BadValue(
            f"Found the programme '{value[:40]}', expected one of {', '.join(known)}.", "value"
        )
    if not known[value] and not at.serves:
        raise Refused(NOT_IN_SERVICE, "value")
    title = known[value] or f"Service step {value}"
    at.machine.let_act(at.specimen.acting(f"stand:{at.acts}"))
    at.machine.step()
    if not at.machine.alive:
        at.say("Nothing happens: no lamp, no sound")
        return
    if not at.front.shut and at.machine_type.loads == "front":
        at.say("Its door is open: it does not start")
        return
    if not at.machine.takes_start:
        at.say("Lamps are on, but it does not start")
        return
    at.machine.seen.figures.clear()
    at.machine.seen.put("alive", 1.0)
    at.recorder.begin()
    at.machine.start(value)
    at.running = title
    at.say(f"{title} begins")


def _stop(at: Stand, value: str) -> None:
    at.machine.board.end()
    at.running = ""
    at.say("Stopped")


def _pace(at: Stand, value: str) -> None:
    if value not in map(str, RATES):
        raise BadValue(
            f"Found the pace '{value[:20]}', expected one of {', '.join(map(str, RATES))}.", "value"
        )
    at.rate = int(value)


def _wait(at: Stand, value: str) -> None:
    seconds = whole(value, "value", 1, 600)
    at.machine.wait(float(seconds))


def _bail(at: Stand, value: str) -> None:
    litres = at.machine.warmth.drain(at.machine.warmth.free_l)
    at.machine.now.water_out_l += litres
    at.machine.step()
    at.say(f"{litres:.1f} litres bailed out, {at.machine.warmth.water_c:.0f} °C")


def _pour(at: Stand, value: str) -> None:
    at.machine.warmth.pour(5.0, at.machine.v.cold_tap_c)
    at.machine.now.water_in_l += 5.0
    at.machine.step()
    at.say("A bucket of five litres poured in")


def _panel(at: Stand, value: str) -> None:
    """Ask the memory, or go on to the next code. Raises Refused where its service mode was not
    entered."""
    if not at.serves:
        raise Refused(NOT_IN_SERVICE, "value")
    at.shown_code = at.shown_code + 1 if at.asked_panel else 0
    at.asked_panel = True
    at.say("The panel shows its memory")


def _tip(at: Stand, value: str) -> None:
    """Tip it on its side, or stand it up again. Raises Refused where a job has it in hand."""
    refuse_in_hand(at, "tip")
    tipped = at.hands.posture == "tipped"
    at.hands = at.hands.changed("posture", "upright" if tipped else "tipped", False)
    at.say("It stands upright again" if tipped else "It lies on its side; two people held it")


def _charge(at: Stand, value: str) -> None:
    """Measure what is left where it stores a charge. Raises Refused before it was waited for."""
    volts, stored = measured_charge(at), at.machine_type.charge
    limit = at.tables.invariants.touch_below_v
    if volts <= limit:
        at.hands = replace(at.hands, charge="none")
    where = stored.where if stored else ""
    may = "it may be touched" if volts <= limit else "wait, and measure again"
    at.say(f"{volts:.0f} V on {where}, at most {limit:g} V: {may}")


def _key(at: Stand, value: str) -> None:
    """Do one thing at the panel or the door. Raises BadValue for what it has not."""
    if value not in acts_at(at.machine_type):
        raise BadValue(
            f"Found '{value[:40]}', expected something at this panel: "
            f"{', '.join(acts_at(at.machine_type)) or 'it has no keys'}.",
            "value",
        )
    if value == "open door" and at.machine.now.locked:
        at.say("The door is locked and does not open")
        return
    at.say(value)
    _at_panel(at, value)


def _enter(at: Stand, value: str) -> None:
    """Go into the service mode as the sheet says, each act in its time."""
    for one in by_the_book(at.front.wanted):
        if one in ("plug in", "plug out"):
            refuse(at, "plug", one.removeprefix("plug "))
            _plug(at, one.removeprefix("plug "))
        else:
            refuse(at, "key", one)
            _at_panel(at, one)
    if not at.front.in_service:
        at.say("All of it as the sheet says, and nothing comes of it")


def _at_panel(at: Stand, one: str) -> None:
    entered = at.front.do(one, at.machine.now.seconds, at.keys_work())
    at.machine.door_shut = at.front.shut
    if entered:
        panel = at.machine_type.panel
        at.say(f"Service mode. {(panel and panel.listens) or ''}".strip().removesuffix("."))


ACTS = {
    "tip": _tip,
    "charge": _charge,
    "key": _key,
    "enter": _enter,
    "plug": _plug,
    "taps": _taps,
    "start": _start,
    "stop": _stop,
    "pace": _pace,
    "wait": _wait,
    "bail": _bail,
    "pour": _pour,
    "panel": _panel,
}
"""What a hand can do to the whole machine, by the name the form sends."""
