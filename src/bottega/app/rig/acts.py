"""What a hand does to the whole machine: plug and taps, programmes, water, its panel and door, its
posture, and the pace of its time."""

from bottega.app.errors import BadValue, Refused, Stale
from bottega.app.rig.service import acts_at, by_the_book
from bottega.app.rig.stand import MOVED, RATES, Stand, stand
from bottega.app.workshop import Workshop
from bottega.rig.programmes import programmes_of, steps_of

MOST_SPILT_L = 1.0
"""Water that may stay in what is tipped, in litre; chosen, the sump keeps as much."""
NOT_IN_SERVICE = "It is not in its service mode. Enter it by the keys, as its sheet says."


def act(workshop: Workshop, name: str, what: str, value: str, seen: int) -> Stand:
    """Do one thing to a machine. Raises Stale where somebody else did something since, BadValue
    for what cannot be done."""
    found = stand(workshop, name)
    with found.lock:
        if seen != found.acts:
            raise Stale(MOVED)
        ACTS.get(what, _unknown)(found, value)
        found.acts += 1
    return found


def _unknown(at: Stand, value: str) -> None:
    raise BadValue(
        f"Found an act the rig does not know, expected one of {', '.join(ACTS)}.", "what"
    )


def _plug(at: Stand, value: str) -> None:
    if value == "in":
        _standing(at)
    at.machine.plugged = value == "in"
    at.machine.now.tripped = False
    at.hands = at.hands.changed(
        "power", "on" if at.machine.plugged else "off", at.machine_type.charge is not None
    )
    if not at.machine.plugged:
        at.machine.board.done = True
        at.machine.asks.nothing()
        at.running, at.asked_panel = "", False
    at.front.do(f"plug {value}", at.machine.now.seconds, works=True)
    filled = at.machine.now.in_l_min > 0
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
    if not at.machine.takes_start:
        at.say("Lamps are on, but it does not start")
        return
    at.machine.seen.figures.clear()
    at.machine.seen.put("alive", 1.0)
    at.machine.start(value)
    at.running = title
    at.say(f"{title} begins")


def _stop(at: Stand, value: str) -> None:
    at.machine.board.done = True
    at.machine.asks.nothing()
    at.running = ""
    at.say("Stopped")


def _pace(at: Stand, value: str) -> None:
    if not value.isdigit() or int(value) not in RATES:
        raise BadValue(
            f"Found the pace '{value[:20]}', expected one of {', '.join(map(str, RATES))}.", "value"
        )
    at.rate = int(value)


def _wait(at: Stand, value: str) -> None:
    if not value.isdigit() or not 1 <= int(value) <= 600:
        raise BadValue(f"Found '{value[:20]}' seconds, expected 1 to 600.", "value")
    at.machine.wait(float(value))
    at.say(f"{value} seconds later")


def _bail(at: Stand, value: str) -> None:
    litres = at.machine.warmth.drain(at.machine.warmth.litres)
    at.machine.now.water_out_l += litres
    at.machine.step()
    at.say(f"{litres:.1f} litres bailed out, {at.machine.warmth.water_c:.0f} °C")


def _pour(at: Stand, value: str) -> None:
    at.machine.warmth.pour(5.0, at.machine.v["cold_tap_c"])
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
    """Tip it on its side, or stand it up again. Raises Refused with the plug in, or with water in
    it."""
    if at.ticket.job is not None:
        raise Refused(f"Job {at.ticket.job} has it in hand: tip it there.", "value")
    tipped = at.hands.posture == "tipped"
    if not tipped and at.machine.plugged:
        raise Refused("The plug is in. Pull it before you tip the machine.", "value")
    if not tipped and at.machine.warmth.litres > MOST_SPILT_L:
        raise Refused(
            f"{at.machine.warmth.litres:.0f} litres would run out over the floor. "
            "Bail the water out first.",
            "value",
        )
    at.hands = at.hands.changed("posture", "upright" if tipped else "tipped", False)
    at.say("It stands upright again" if tipped else "It lies on its side; two people held it")


def _standing(at: Stand) -> None:
    if at.hands.posture == "tipped":
        raise Refused("It lies on its side. Stand it up first.", "value")


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
            _plug(at, one.removeprefix("plug "))
        else:
            _at_panel(at, one)
    if not at.front.in_service:
        at.say("All of it as the sheet says, and nothing comes of it")


def _at_panel(at: Stand, one: str) -> None:
    if at.front.do(one, at.machine.now.seconds, at.keys_work()):
        panel = at.machine_type.panel
        at.say(f"Service mode. {(panel and panel.listens) or ''}".strip().removesuffix("."))


ACTS = {
    "tip": _tip,
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
