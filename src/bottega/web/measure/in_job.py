"""A formula beside a check of a job: worked out with what the job knows, and kept as its reading
where it is one."""

from dataclasses import dataclass

from fastapi import APIRouter, Request, Response

from bottega.app.answer import Answer
from bottega.app.errors import NotFound
from bottega.app.job.answer import diagnose
from bottega.app.measure.formula import Worked, beside, facts_of, work_out
from bottega.app.workshop import Workshop
from bottega.core.library.machine_type import MachineType
from bottega.web.kit.page import Page, render, workshop_of

router = APIRouter(prefix="/jobs/{number}", include_in_schema=False)


@dataclass(frozen=True)
class Beside:
    """A formula beside a check: what it gives, and what of it can be kept: as the check's reading,
    as it would be typed, or as its answer, an outcome; ``said`` in words. Both empty where it is
    neither, or nothing is worked out yet."""

    check: str
    work: Worked
    reading: str = ""
    outcome: str = ""
    said: str = ""

    @property
    def tells(self) -> bool:
        """Return whether the reading or the answer of the check comes from it."""
        return self.check in {*self.work.record.reads, *self.work.record.answers}


@dataclass(frozen=True)
class BesidePage:
    """What a formula beside a check gets when it is worked out anew."""

    page: Page
    answer: Answer
    one: Beside
    asked: bool


def works_beside(workshop: Workshop, answer: Answer, check: str) -> list[Beside]:
    """Return the formulas beside a check, worked out as far as the job knows."""
    facts = facts_of(workshop.settings, answer)
    found = [work_out(workshop, name, {}, facts) for name in beside(workshop, check)]
    return [_beside(answer.machine, check, work) for work in found]


def _beside(machine: MachineType, check: str, work: Worked) -> Beside:
    output, answers = work.record.reads.get(check), work.record.answers.get(check)
    shown = {result.id: f"{result.text} {result.symbol}".strip() for result in work.results}
    if output in work.amounts:
        return Beside(check, work, f"{work.amounts[output]:.6g}", said=shown[output])
    if answers is not None and answers.by in work.amounts:
        outcome = machine.checks[check].outcome(answers.outcome(work.amounts[answers.by]))
        if outcome is not None:
            said = f"{outcome.label.lower()} ({shown[answers.by]})"
            return Beside(check, work, outcome=outcome.id, said=said)
    return Beside(check, work)


@router.get("/beside/{check}/{name}")
def work_beside(request: Request, number: str, check: str, name: str) -> Response:
    """Show a formula beside a check, worked out from what was typed and from what the job
    knows."""
    workshop = workshop_of(request)
    answer = diagnose(workshop, number)
    if name not in beside(workshop, check) or check not in answer.machine.checks:
        raise NotFound(f"Found no formula '{name[:40]}' beside this check.")
    typed = dict(request.query_params)
    work = work_out(workshop, name, typed, facts_of(workshop.settings, answer))
    context = BesidePage(Page(work.record.name), answer, _beside(answer.machine, check, work), True)
    return render(request, "measure/beside.html", context)
