"""Requests somebody hostile or hapless would send: job files, calls, sheets and forms that cannot
be."""

import copy
import json
from collections.abc import Callable, Iterator
from typing import Any

Job = dict[str, Any]


NASTY = [
    "5 //",
    "5 / / ohm",
    "5 ** 9 ** 9",
    "5 %/%",
    "5 _",
    "\u00b2",
    "\u0665",
    "9" * 5000,
    "1e200",
    "-1e308",
    "1e999",
    "nan",
    "\x00",
    "\ud7ff\uffff",
    "a" * 301,
    "word " * 3000,
    '"' * 40,
    "\r",
    "a\rb\rc",
    "x" * 131_073,
    "x" * 50_000,
    "code,shows,name,reads,stored\r7-1,7 1,odd,fill,high=usually",
    "code,shows,name,reads,stored\n" + "x" * 131_073 + ",7 1,odd,fill,high=usually",
    "{{ 7 * 7 }}",
    "'; DROP TABLE events; --",
]
"""What was typed where a figure, a name or a date belongs, and felled the server once; and their
like."""


def job_files(whole: Job) -> Iterator[tuple[str, bytes]]:
    """Yield broken versions of a whole job file, each with its name."""
    for name, spoil in SPOILT.items():
        job = copy.deepcopy(whole)
        spoil(job)
        yield name, json.dumps(job).encode()
    raw = json.dumps(whole).encode()
    yield "cut", raw[: len(raw) // 2]
    yield "deep", b"[" * 100_000
    yield "not text", b"\xff\x00\xfe"
    yield "huge figure", b'{"format": "bottega-job", "version": ' + b"9" * 5000 + b"}"
    yield "nothing", b""


def _event(job: Job, place: int = 0) -> dict[str, Any]:
    found: dict[str, Any] = job["events"][place]
    return found


def _opening(job: Job) -> dict[str, Any]:
    found: dict[str, Any] = _event(job)["body"]
    return found


def _with_event(body: dict[str, Any]) -> Callable[[Job], None]:
    def spoil(job: Job) -> None:
        first = _event(job)
        job["events"].append({**first, "id": "hostile-0001", "version": 1, "body": body})

    return spoil


def _repairs(job: Job, count: int = 20) -> None:
    first = _event(job)
    for n in range(count):
        body = {"kind": "repaired", "repair": "overload.advise"}
        job["events"].append({**first, "id": f"repair-{n:04d}", "version": 1, "body": body})


def _reading(**changes: Any) -> dict[str, Any]:
    reading = {
        "typed": "184",
        "amount": 184.0,
        "unit": "ohm",
        "verdict": "in",
        "low": 165.0,
        "high": 205.0,
        "source": "forged",
        "grade": "sheet",
        "weights": {"in band": 1.0},
    }
    return {
        "kind": "checked",
        "check": "measure_pump_coil",
        "outcome": "in band",
        "reading": {**reading, **changes},
    }


SPOILT: dict[str, Callable[[Job], None]] = {
    "unknown weights": _with_event(_reading(weights={"no such outcome": 1.0})),
    "infinite weights": _with_event(_reading(weights={"in band": float("inf")})),
    "weights that are no numbers": _with_event(_reading(weights={"in band": float("nan")})),
    "an amount that is no number": _with_event(_reading(amount=float("nan"))),
    "twenty repairs": _repairs,
    "year 9999 with a zone": lambda job: _event(job).update(at="9999-12-31T23:59:59-12:00"),
    "year 1 with a zone": lambda job: _event(job).update(at="0001-01-01T00:00:00+14:00"),
    "a list as an id": lambda job: _opening(job).update(sheet=["nembrio-f7"]),
    "a list as a kind": lambda job: _event(job)["body"].update(kind=["opened"]),
    "a lone surrogate": lambda job: _opening(job).update(place="\ud800"),
    "a lone surrogate as author": lambda job: _event(job).update(author="\udfff"),
    "a long complaint": _with_event({"kind": "complained", "text": "x" * 20_000, "said": []}),
    "forged odds": lambda job: _opening(job).update(odds={"no_such_fault": 3.0}),
    "odds beyond all measure": lambda job: _opening(job).update(odds={"rotor_slips": 20.0}),
    "a version of the future": lambda job: job.update(version=99),
    "an event of the future": lambda job: _event(job).update(version=99),
    "an unknown kind": _with_event({"kind": "danced"}),
    "events of another world": lambda job: job.update(events=[{}]),
    "one event twice": lambda job: job["events"].append(_event(job)),
    "a number that is a path": lambda job: job.update(number="../../etc"),
    "ten thousand events": lambda job: job.update(events=[_event(job)] * 10_000),
}

BIG = "9" * 5000
CALLS: dict[str, dict[str, Any]] = {
    "a list as machine": {"machine": ["nembrio-f7"], "age_years": 5, "place": "x"},
    "an age without end": {"machine": "nembrio-f7", "age_years": 1e308, "place": "x"},
    "a superscript age": {"machine": "nembrio-f7", "age_years": "²", "place": "x"},
    "a lone surrogate": {"machine": "\ud800", "age_years": 5, "place": "\ud800"},
    "a plate of nonsense": {"machine": "FB", "age_years": 5, "place": "x", "plate": {"year": BIG}},
}
EVENTS: dict[str, dict[str, Any]] = {
    "a list as a check": {"kind": "checked", "check": ["turn_rotor"], "outcome": "free"},
    "a dict as a note": {"kind": "noted", "text": {}},
    "a lone surrogate": {"kind": "noted", "text": "\ud83d"},
    "a day of the year 1": {"kind": "waiting", "on": "part", "until": "0001-01-01"},
    "a day of the year 9999": {"kind": "waiting", "on": "part", "until": "9999-12-31"},
    "a huge figure": {
        "kind": "state_changed",
        "what": "charge",
        "to": "none",
        "measured_v": int("9" * 400),
    },
    "a place off the drawing": {
        "kind": "marked",
        "what": "oil",
        "at": "drain_pump",
        "phase": "any",
        "age": "live",
        "x": 1e308,
    },
    "nothing at all": {},
}
SHEETS: dict[str, str] = {
    "thirty thousand brackets": "sheet: x\nmaker: " + "[" * 30_000,
    "thirty thousand dashes": "- " * 30_000,
    "a billion laughs": "a: &a [x]\nb: &b [*a, *a]\nc: [*b, *b]\n",
    "two megabytes": "notes:\n" + "- a\n" * 500_000,
    "a tag": "a: !!python/object/apply:os.system [ls]\n",
    "negative weights": (
        "sheet: nembrio-f7\nmaker: N\nmodel: F\narchetype: FB\nweights: {rotor_slips: -5}\n"
    ),
    "weights that are no numbers": (
        "sheet: nembrio-f7\nmaker: N\nmodel: F\narchetype: FB\nweights: {rotor_slips: .nan}\n"
    ),
    "an operation in a circle": (
        "sheet: nembrio-f7\nmaker: N\nmodel: F\narchetype: FB\n"
        "operations: {rear_panel: {name: x, minutes: 1, after: [rear_panel]}}\n"
    ),
}
FORMS: dict[str, dict[str, str]] = {
    "value": {"key": "x", "low": "nan", "high": "inf", "unit": "ohm", "grade": "sheet"},
    "fastener": {"operation": "top", "count": "nan", "kind": "screw"},
    "codes": {"rows": "[{}]"},
    "note": {"note": "x" * 100_000},
    "code": {"code": "²", "shows": "² ²", "name": "x", "reads": "suds", "stored": "high=often"},
}
