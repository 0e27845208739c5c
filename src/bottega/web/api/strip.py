"""The way to a part and back, for programs."""

from fastapi import APIRouter, Request
from pydantic import BaseModel

from bottega.app.errors import BadValue
from bottega.app.job.answer import diagnose
from bottega.app.strip.plan import decided_repair, plan_of
from bottega.web.api.problems import PROBLEMS
from bottega.web.kit.page import workshop_of

router = APIRouter(prefix="/api/v1", tags=["strip-down"], responses=PROBLEMS)


class WayItem(BaseModel):
    """One way: what makes it safe, the operations there and back in order, minutes, changes, and
    whether nothing shorter exists."""

    first: list[str]
    there: list[str]
    back: list[str]
    minutes: float
    tips: int
    tool_changes: int
    people: int
    optimal: bool
    risks: list[str]


@router.get("/jobs/{number}/strip", summary="Plan the way to the repair decided on, and back")
def read_ways(request: Request, number: str, repair: str = "") -> list[WayItem]:
    """Return the ways, the shortest first, from how the machine stands; to `repair`, else to the
    one decided on."""
    workshop = workshop_of(request)
    answer = diagnose(workshop, number)
    wanted = answer.machine.repairs.get(repair) if repair else decided_repair(answer)
    if wanted is None:
        raise BadValue("Found no such repair, expected one of this machine's.", "repair")
    return [
        WayItem(
            first=[f"{field} {to}" for field, to in way.first],
            there=list(way.order),
            back=list(way.back),
            minutes=way.minutes,
            tips=way.tips,
            tool_changes=way.tool_changes,
            people=way.people,
            optimal=way.optimal,
            risks=list(way.risks),
        )
        for way in plan_of(workshop, answer, wanted).ways
    ]
