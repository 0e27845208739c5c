"""Two machines side by side, or one before and after its repair: codes, readings, sounds, marks,
verdicts."""

from dataclasses import dataclass

from bottega.app.answer import Answer
from bottega.core.diagnosis.words import fault_title
from bottega.core.job.events import Checked, Marked, PanelRead
from bottega.core.job.job import Entry
from bottega.core.job.kinds import told
from bottega.core.job.words import age_words, repair_name

PLAIN = 0.05
"""Below this no fault is named as the likeliest."""
SOUNDS = ("hear", "listen")
"""Checks whose id begins so are done by ear."""


@dataclass(frozen=True)
class ComparedLine:
    """One thing found on either side; empty where it was not looked at."""

    name: str
    left: str
    right: str
    differs: bool


@dataclass(frozen=True)
class ComparedGroup:
    """Lines of one kind: verdict, codes, readings, sounds, looks."""

    name: str
    lines: tuple[ComparedLine, ...]


@dataclass(frozen=True)
class Comparison:
    """Two columns with their heads, in groups; a group without lines is left out."""

    left: str
    right: str
    groups: tuple[ComparedGroup, ...]


def before_and_after(answer: Answer) -> Comparison:
    """Return what was found before the first repair beside what was found after it."""
    before = [entry for entry in answer.job.live if entry.epoch == 0]
    after = [entry for entry in answer.job.live if entry.epoch > 0]
    was, now = answer.belief.fault_was(), dict(answer.ranking)
    repairs = ", ".join(repair_name(answer.machine, r.repair) for r in answer.job.repairs)
    verdicts = [
        _line("Likeliest fault", _verdict(answer, was), _verdict(answer, now)),
        _line(
            "Nothing wrong with it", f"{answer.belief.was[0]:.0%}", f"{answer.belief.healthy:.0%}"
        ),
        ComparedLine("Put right", "nothing yet", repairs, False),
    ]
    return Comparison("Before", "After", _groups(verdicts, (answer, before), (answer, after)))


def side_by_side(one: Answer, other: Answer) -> Comparison:
    """Return two jobs beside each other, each by its own machine type and sheet."""
    sides = [(answer, list(answer.job.live)) for answer in (one, other)]
    verdicts = [
        ComparedLine("Machine", one.machine.title, other.machine.title, False),
        ComparedLine(
            "Age",
            age_words(one.job.opened.age_years),
            age_words(other.job.opened.age_years),
            False,
        ),
        ComparedLine("Said", _said(one), _said(other), False),
        _line(
            "Likeliest fault",
            *(_verdict(answer, answer.belief.fault_was()) for answer in (one, other)),
        ),
        _line("Decided", *(_decided(answer) for answer in (one, other))),
    ]
    return Comparison(f"Job {one.number}", f"Job {other.number}", _groups(verdicts, *sides))


def _groups(
    verdicts: list[ComparedLine],
    left: tuple[Answer, list[Entry]],
    right: tuple[Answer, list[Entry]],
) -> tuple[ComparedGroup, ...]:
    found = [_found(*left), _found(*right)]
    groups = [ComparedGroup("Verdict", tuple(line for line in verdicts if line.left or line.right))]
    for kind, name in (
        ("codes", "Codes"),
        ("reading", "Readings"),
        ("sound", "Sounds"),
        ("mark", "Marks"),
        ("look", "Looks and hands"),
    ):
        names = [n for side in found for k, n in side if k == kind]
        lines = [
            _line(n, *(side.get((kind, n), "") for side in found)) for n in dict.fromkeys(names)
        ]
        groups.append(ComparedGroup(name, tuple(lines)))
    return tuple(group for group in groups if group.lines)


def _found(answer: Answer, entries: list[Entry]) -> dict[tuple[str, str], str]:
    """Return the last of everything found, by kind and name."""
    found: dict[tuple[str, str], str] = {}
    for entry in entries:
        body = entry.body
        if isinstance(body, PanelRead):
            found["codes", "Stored codes"] = told(answer.machine, body)[1]
        elif isinstance(body, Marked):
            what, detail = told(answer.machine, body)
            found["mark", what] = detail
        elif isinstance(body, Checked):
            what, detail = told(answer.machine, body)
            kind = (
                "reading" if body.reading else "sound" if body.check.startswith(SOUNDS) else "look"
            )
            found[kind, what] = detail
    return found


def _line(name: str, left: str, right: str) -> ComparedLine:
    return ComparedLine(name, left, right, bool(left and right and left != right))


def _verdict(answer: Answer, chances: dict[str, float]) -> str:
    fault = max(chances, key=lambda name: chances[name])
    if chances[fault] < PLAIN:
        return "nothing stands out"
    return f"{fault_title(answer.machine, fault)}, {chances[fault]:.0%}"


def _said(answer: Answer) -> str:
    return answer.job.complaint.text if answer.job.complaint else ""


def _decided(answer: Answer) -> str:
    decided = answer.job.decided
    return told(answer.machine, decided)[0].removeprefix("Decided: ") if decided else ""
