"""Fill an empty data folder with the demo shop."""

from collections.abc import Callable
from datetime import datetime, time, timedelta
from typing import Any
from uuid import NAMESPACE_URL, uuid5

from bottega.app.bearings.seals import chosen, offers_for, seat_typed
from bottega.app.call.call import Call, Words, open_job, parse_call
from bottega.app.decide.decision import decision
from bottega.app.job.answer import diagnose
from bottega.app.job.record import parse_body, record
from bottega.app.measure.reading import take_reading
from bottega.app.rig.bound import call_about
from bottega.app.workshop import Workshop
from bottega.core.day.plan import next_arrival
from bottega.core.job.events import AnyBody
from bottega.core.library.shelf import DATA
from bottega.core.library.yamlfile import read_yaml
from bottega.core.shop import ShopSettings
from bottega.store.rigs import RigTicket

DEMO = DATA / "demo" / "officina-faro.yaml"


def _role(role: str) -> Callable[[str], str]:
    return lambda _: role


def fill(workshop: Workshop, say: Callable[[int, int], None] = lambda done, whole: None) -> bool:
    """Fill the workshop with the demo shop if it holds no job yet; return whether it did. ``say``
    is told after each job how many of how many are there."""
    if workshop.log.has_jobs():
        return False
    scene = read_yaml(DEMO).data
    settings = dict(scene["settings"])
    settings |= {listed: tuple(settings[listed]) for listed in ("ferry_days", "seals")}
    workshop.change_settings(lambda _: ShopSettings(**settings))
    for member in scene["members"]:
        workshop.change_member(member["name"], _role(member["role"]))
    present, clock = workshop.now(), workshop.clock
    try:
        for done, job in enumerate(scene["jobs"], start=1):
            _Scene(workshop, job, present).play()
            say(done, len(scene["jobs"]))
        _put_on_the_rig(workshop, scene["rig"], present)
    finally:
        workshop.clock = clock
    return True


def _put_on_the_rig(workshop: Workshop, rig: dict[str, Any], present: datetime) -> None:
    """Draw the demo's machine of physics and open the job that is bound to it."""
    workshop.clock = lambda: present
    ticket = RigTicket(rig["name"], rig["archetype"], rig["sheet"], rig["seed"], rig["faults"])
    workshop.rigs.keep(ticket)
    call_about(workshop, ticket.name, rig["author"], str(uuid5(NAMESPACE_URL, ticket.name)))


def called(opened: dict[str, Any]) -> Call:
    """Return the call a job of the scene was opened with; its machine is a sheet, or a kind
    alone."""
    known = {key: value for key, value in opened.items() if key not in ("sheet", "archetype")}
    return parse_call({"machine": opened.get("sheet") or opened["archetype"], **known})


class _Scene:
    def __init__(self, workshop: Workshop, job: dict[str, Any], present: datetime) -> None:
        self.workshop, self.job, self.present = workshop, job, present
        hour, minute = (int(part) for part in job["at"].split(":"))
        day = present.date() - timedelta(days=job["days_ago"])
        start = datetime.combine(day, time(hour, minute), present.tzinfo)
        longest = max((event["after"] for event in job["events"]), default=1)
        self.start = min(start, present - timedelta(minutes=longest + 1))

    def play(self) -> None:
        """Open the job and write its events, each at its own time."""
        number, author = self.job["number"], self.job["author"]
        self._at(0)
        open_job(
            self.workshop,
            called(self.job["opened"]),
            Words(self.job["complaint"]),
            author,
            event_id=_id(number, 0),
            number=number,
        )
        for place, event in enumerate(self.job["events"], start=1):
            self._at(event["after"])
            record(
                self.workshop,
                number,
                self._body(number, event),
                author,
                event_id=_id(number, place),
            )

    def _body(self, number: str, event: dict[str, Any]) -> AnyBody:
        raw = {key: value for key, value in event.items() if key not in ("after", "until_ferry")}
        if raw["kind"] == "reading":
            answer = diagnose(self.workshop, number)
            return take_reading(
                self.workshop, answer.job, answer.machine, raw["check"], str(raw["typed"])
            )
        if raw["kind"] == "decide":
            answer = diagnose(self.workshop, number)
            return decision(
                self.workshop,
                answer,
                raw["choice"],
                raw.get("repair"),
                reason=raw.get("reason", ""),
            )
        if raw["kind"] == "stack":
            return self._stack(number, raw["seat"], raw["reason"])
        if "on_days" in raw:
            raw["on"] = self.present.date() + timedelta(days=raw.pop("on_days"))
        if event.get("until_ferry"):
            days = self.workshop.settings.ferry_days
            raw["until"] = next_arrival(self.present.date(), days)
        return parse_body(raw)

    def _stack(self, number: str, seat: dict[str, str], reason: str) -> AnyBody:
        """Return the choice of the best stack for a measured seat that lies on the shelf."""
        measured = seat_typed(self.workshop, seat)
        offers = offers_for(self.workshop, measured)[0] if measured else []
        here = next(offer for offer in offers if offer.on is None)
        answer = diagnose(self.workshop, number)
        return chosen(self.workshop, answer, seat, here.names, reason=reason)

    def _at(self, minutes: float) -> None:
        moment = self.start + timedelta(minutes=minutes)
        self.workshop.clock = lambda: moment


def _id(number: str, place: int) -> str:
    return str(uuid5(NAMESPACE_URL, f"urn:bottega:demo:{number}:{place}"))
