"""How hands left a machine on the rig, as plain data: what is kept of it in the database after each
act, and the same machine made from that again."""

from dataclasses import fields
from datetime import datetime
from typing import Any, Literal

from pydantic import BaseModel, ConfigDict, ValidationError

from bottega.app.rig.service import Done
from bottega.app.rig.stand import Stand
from bottega.core.machine.state import MachineState
from bottega.rig.state import Now

UNREADABLE = "How it was left could not be read any more: it stands as it came"


class Heat(BaseModel):
    """The heat in a machine: litres and temperatures in °C, and what came and went, in joule."""

    model_config = ConfigDict(extra="forbid")

    water_c: float
    element_c: float
    litres: float
    cut_out: bool
    put_in: float
    carried_in: float
    carried_out: float
    lost: float
    steamed_l: float = 0.0
    held_l: float = 0.0


class LeftStand(BaseModel):
    """How a machine was left. A programme that ran is not: it has stopped when the machine is
    looked at again, as if the current had failed."""

    model_config = ConfigDict(extra="forbid")

    form: Literal[1] = 1
    """The form these data are in."""
    wall: datetime
    hands: MachineState
    followed: MachineState | None
    leads: tuple[str, ...]
    plugged: bool
    tap_open: bool
    unplugged_s: float
    rate: int
    acting: list[str]
    """The faults that act, of those it was drawn with."""
    now: Now
    seen: dict[str, float]
    heat: Heat
    codes: list[str]
    stopped: str | None
    running: str
    keeps_shut: bool = False
    """Whether its board keeps the door locked."""
    dial: str
    shut: bool
    in_service: bool
    done: list[Done]
    asked_panel: bool
    shown_code: int
    told: list[str]


def left_of(at: Stand) -> dict[str, Any]:
    """Return how a machine stands, as plain data."""
    machine, front = at.machine, at.front
    left = LeftStand(
        wall=at.wall,
        hands=at.hands,
        followed=at.followed,
        leads=at.leads,
        plugged=machine.plugged,
        tap_open=machine.tap_open,
        unplugged_s=at.unplugged_s,
        rate=at.rate,
        acting=sorted(machine.acting),
        now=machine.now,
        seen=machine.seen.figures,
        heat=Heat(**{name: getattr(machine.warmth, name) for name in Heat.model_fields}),
        codes=machine.board.codes,
        stopped=machine.board.stopped,
        running=at.running,
        keeps_shut=machine.board.keeps_shut,
        dial=front.dial,
        shut=front.shut,
        in_service=front.in_service,
        done=front.done,
        asked_panel=at.asked_panel,
        shown_code=at.shown_code,
        told=list(at.told),
    )
    return left.model_dump(mode="json")


def stand_as_left(at: Stand, acts: int, stored: Any) -> None:
    """Let a machine that was just set up stand as it was left after so many acts; where that cannot
    be read, it stays as it came and says so."""
    at.acts = acts
    try:
        left = LeftStand.model_validate(stored)
    except ValidationError:
        at.say(UNREADABLE)
        return
    machine, front = at.machine, at.front
    machine.let_act(frozenset(left.acting) & frozenset(at.specimen.faults))
    machine.plugged, machine.tap_open = left.plugged, left.tap_open
    for one in fields(Now):
        setattr(machine.now, one.name, getattr(left.now, one.name))
    for name, value in left.heat.model_dump().items():
        setattr(machine.warmth, name, value)
    machine.seen.figures.update(left.seen)
    machine.board.codes, machine.board.stopped = left.codes, left.stopped
    at.wall, at.hands, at.followed, at.leads = left.wall, left.hands, left.followed, left.leads
    at.unplugged_s, at.rate = left.unplugged_s, left.rate
    at.asked_panel, at.shown_code = left.asked_panel, left.shown_code
    front.dial, front.shut, front.in_service = left.dial, left.shut, left.in_service
    front.done = left.done
    machine.door_shut = front.shut
    machine.board.keeps_shut = left.keeps_shut
    at.told.extend(left.told)
    if left.running:
        at.say(f"{left.running} stopped: the machine was put away while it ran")
