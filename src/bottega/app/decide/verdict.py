"""The one verdict on a job: what it says of itself on the bench, on every screen, in the report and
to programs. Nobody else works one out."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from bottega.app.answer import Answer
from bottega.core.diagnosis.words import fault_title
from bottega.core.job.events import Checked, CodesCleared, PanelRead, Proved, PutBack, Repaired
from bottega.core.job.job import Job
from bottega.core.job.proofs import condemning, owed
from bottega.core.job.words import code_words, repair_name
from bottega.core.library.machine_type import MachineType, RepairOption
from bottega.core.wording import lower_first

State = Literal[
    "looking",
    "leading",
    "proved",
    "two",
    "nothing",
    "referred",
    "replaced",
    "to prove",
    "repaired",
    "failing",
]
"""What a job may say of itself. "two": two faults stand proved; "to prove": a repair is made and
not proved; "failing": one is made, and the machine fails still."""
LEADS = 0.5
"""From which probability a fault leads: likelier there than not."""
RUN = "watch_all"
"""The run through every function in turn."""


@dataclass(frozen=True)
class Verdict:
    """The verdict on a job. ``faults`` are those it speaks of, the likeliest first, ``chance`` the
    probability (0..1) it rests on; None where it rests on none."""

    state: State
    title: str
    """One line, for lists and headings."""
    customer: str
    """One sentence without a figure, for the customer."""
    faults: tuple[str, ...] = ()
    chance: float | None = None
    untried: tuple[str, ...] = ()
    """What is still to be tried before it may be said that nothing is wrong; in words."""
    first: tuple[str, ...] = ()
    """What comes first where a repaired machine fails still; in words."""


def verdict_of(answer: Answer, prove_at: float) -> Verdict:
    """Return the verdict on a job; ``prove_at`` (0..1) is the shop's mark of proof."""
    job, machine = answer.job, answer.machine
    made = [r.repair for r in job.repairs]
    together = [name for name in made if job.decided and name in job.decided.repairs]
    if made and fails_still(answer):
        return _failing(answer, made[-1])
    if job.decided is not None and job.decided.choice != "repair" and not made:
        return _settled(answer, job.decided.choice)
    if made:
        return _repaired(answer, list(dict.fromkeys(together)) or made[-1:], prove_at)
    fault, chance = answer.ranking[0]
    missing = untried(answer, prove_at)
    if not missing:
        return _nothing(answer)
    title = fault_title(machine, fault)
    proved = [name for name, p in answer.ranking if p >= prove_at]
    if len(proved) > 1:
        both = tuple(proved[:2])
        first, second = (fault_title(machine, name) for name in both)
        names = f"{first} and {lower_first(second)}"
        told = f"{lower_first(first)}, {lower_first(second)}"
        said = f"Two things are wrong: {told}."
        return Verdict("two", names, said, both, answer.ranking[1][1])
    if proved:
        return Verdict("proved", title, f"{fault_title(machine, fault)}.", (fault,), chance)
    if answer.belief.sound >= max(chance, LEADS):
        words = "Nothing wrong was found yet; not everything was tried."
        return Verdict("looking", "Nothing found yet", words, (), answer.belief.sound, missing)
    if chance >= LEADS:
        said = f"Suspected, and not proved: {lower_first(fault_title(machine, fault))}."
        return Verdict("leading", title, said, (fault,), chance, missing)
    return Verdict("looking", title, "The cause is not found yet.", (fault,), chance, missing)


def fails_still(answer: Answer) -> bool:
    """Return whether a repaired machine fails since its last repair: in its last run, in the last
    proof of a kind, or in the check that had condemned the old part."""
    job, machine = answer.job, answer.machine
    if not job.repairs:
        return False
    if answer.evidence.fails or any(p.went == "badly" for p in job.proofs().values()):
        return True
    repeated = set(condemning(job, machine))
    last = {b.check: b for e, b in job.checked() if e.epoch == job.epoch and not b.old_part_of}
    return any(_reads_bad(machine, body) for name, body in last.items() if name in repeated)


def untried(answer: Answer, prove_at: float) -> tuple[str, ...]:
    """Return what is still to be tried, in words, before it may be said that nothing is wrong with
    the machine; empty once all of it was, and belief is above the shop's mark."""
    job, machine = answer.job, answer.machine
    found = []
    if RUN in machine.checks and not _ran_well(job, machine):
        found.append(machine.checks[RUN].name)
    if machine.panel is not None and (job.panel is None or job.panel.result == "unreadable"):
        found.append("Read the memory")
    stored = _stored(job)
    if stored:
        names = ", ".join(code_words(machine, code) for code in stored)
        found.append(f"A code is stored ({names}): clear it, run it, and read again")
    if answer.belief.sound < prove_at:
        found.append(
            f"It stands at {int(answer.belief.sound * 100)}% that nothing is wrong; this shop says "
            f"so from {prove_at:.0%} on"
        )
    return tuple(found)


def _ran_well(job: Job, machine: MachineType) -> bool:
    """Return whether every function was run in turn and went well, since anything was changed."""
    well = machine.checks[RUN].outcomes[0].id
    for entry in reversed(job.live):
        body = entry.body
        if isinstance(body, Checked) and body.check == RUN:
            return body.outcome == well
        if isinstance(body, (Repaired, PutBack)):
            return False
    return False


def _stored(job: Job) -> tuple[str, ...]:
    """Return the codes that were read last and not cleared since."""
    for entry in reversed(job.live):
        body = entry.body
        if isinstance(body, CodesCleared):
            return ()
        if isinstance(body, PanelRead):
            return (*body.codes, *body.unlisted)
    return ()


def _reads_bad(machine: MachineType, body: Checked) -> bool:
    check = machine.checks.get(body.check)
    outcome = check.outcome(body.outcome) if check else None
    return outcome is not None and outcome.is_bad


def _settled(answer: Answer, choice: str) -> Verdict:
    if choice == "nothing_wrong":
        return _nothing(answer)
    if choice == "refer":
        return Verdict("referred", "Handed to another firm", "It was handed on to another firm.")
    return Verdict("replaced", "To be replaced", "It is to be replaced.")


def _nothing(answer: Answer) -> Verdict:
    reason = answer.job.decided.reason if answer.job.decided else ""
    said = "Nothing wrong with the machine was found."
    customer = f"{said} {reason}".strip()
    return Verdict("nothing", "Nothing wrong found", customer, (), answer.belief.sound)


def _repaired(answer: Answer, repairs: Sequence[str], prove_at: float) -> Verdict:
    job, machine = answer.job, answer.machine
    names = [repair_name(machine, repair) for repair in repairs]
    name = " and ".join((names[0], *map(lower_first, names[1:])))
    faults = tuple(f for repair in repairs for f in _put_right(answer, repair, prove_at))
    said = " ".join(f"{fault_title(machine, fault)}." for fault in faults) or f"{name}."
    debts = [debt for debt in owed(job, machine) if not debt.settled]
    ran = any(isinstance(p, Proved) and p.went == "well" for p in job.proofs().values())
    if debts or not ran:
        was = answer.belief.fault_was()
        if any(was[fault] < prove_at for fault in faults):
            said = f"Suspected, and not proved: {lower_first(said)}"
        return Verdict("to prove", name, f"{said} The repair is not proved yet.", faults)
    return Verdict("repaired", name, said, faults)


def _failing(answer: Answer, repair: str) -> Verdict:
    machine = answer.machine
    record = machine.repairs.get(repair)
    name = repair_name(machine, repair)
    return Verdict(
        "failing",
        f"Still failing after: {lower_first(name)}",
        f"{name}: done, and the machine still fails. It is not put right yet.",
        tuple(fault for fault, _ in answer.ranking[:2]),
        answer.ranking[0][1],
        first=_first_after(machine, record) if record else (),
    )


def _first_after(machine: MachineType, repair: RepairOption) -> tuple[str, ...]:
    """Return what comes first where a repair did not help."""
    part = machine.components[repair.component].name
    new = (
        f"The new {part} itself: dead from the box, or the wrong one",
        f"How it was fitted: plug, hoses, seat of the {part}",
        f"What feeds the {part}: wires and the board's output",
    )
    again = (f"What was done at the {part}: looked at once more",)
    own = new if repair.do == "part" else again
    return (*own, "A second fault that was there all along")


def _put_right(answer: Answer, repair: str, prove_at: float) -> list[str]:
    """Return the faults that a repair put right: those that stood proved, else the likeliest."""
    record, was = answer.machine.repairs.get(repair), answer.belief.fault_was()
    covered = [fault for fault, _ in record.covers] if record else []
    covered.sort(key=lambda fault: -was[fault])
    return [fault for fault in covered if was[fault] >= prove_at] or covered[:1]
