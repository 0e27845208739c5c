"""An afternoon of hostile requests, again: schema-driven ones, forged files, kills under load, a
full disk, writers."""

import itertools
import re
import signal
from collections.abc import Callable
from pathlib import Path
from time import monotonic, perf_counter
from typing import Any
from uuid import uuid4

import httpx2
from pydantic import BaseModel

from bottega.benchmark import hostile
from bottega.benchmark.attacker import Attacker, Tally, at_once
from bottega.benchmark.served import served
from bottega.benchmark.siege import Probe, besiege
from bottega.store.database import open_database
from bottega.store.log import EventLog

WRITERS, NOTES_EACH = 20, 20
FULL_TRIES, FULL_ENOUGH = 200, 20
"""Notes sent to a full disk, and how many are refused before it is believed; chosen."""
BATCH = 40
"""Examples of one operation at a time; chosen, so that all operations get their turn."""
ROOM_B = 96 * 1024
"""Bytes the full disk still takes beyond what is there; chosen, some thirty entries."""
SLOWEST_S, HEAVIEST_MB = 2.0, 600.0
"""No answer later, in seconds; no more memory, in megabytes. Chosen."""


class AttackBench(BaseModel):
    """What an attack found."""

    seed: int
    requests: int
    server_errors: int
    kills: int
    lost: int
    doubled: int
    slowest_s: float
    memory_mb: float
    small_file_p95_ms: float
    small_file_p99_ms: float
    """How long a small file took meanwhile, so the loop's own delay as it is felt."""
    first_errors: list[str]


def bench_attack(
    folder: Path,
    port: int,
    seed: int,
    minutes: float,
    *,
    requests: int,
    kills: int,
    say: Callable[[str], None],
) -> AttackBench:
    """Return what the attacks found on an application of their own in ``folder``."""
    tally, base = Tally(), f"http://127.0.0.1:{port}"
    with served("demo", port, folder / "shop") as server:
        attacker, probe = Attacker(base, tally), Probe(base)
        with probe.running():
            lost = besiege(attacker, folder / "shop", say)
        say("forged files, calls, events, sheets and forms")
        forge(attacker)
        say(f"{WRITERS} writers")
        doubled = writers(attacker, base)
        say(f"at least {requests} requests drawn from the API's own description")
        _drawn(base, attacker, seed, requests, end=monotonic() + minutes * 60)
        memory = _peak_mb(server.pid)
        attacker.leave()
    say("a full disk")
    lost += full_disk(folder / "shop", port, tally)
    say(f"{kills} kills under load")
    for _ in range(kills):
        gone, twice = kill_under_load(folder / "killed", port, tally)
        lost += gone
        doubled += twice
    return AttackBench(
        seed=seed,
        requests=tally.requests,
        server_errors=len(tally.errors),
        kills=kills,
        lost=lost,
        doubled=doubled,
        slowest_s=round(tally.slowest_s, 2),
        memory_mb=round(memory, 1),
        small_file_p95_ms=round(probe.spread.p95, 1),
        small_file_p99_ms=round(probe.spread.p99, 1),
        first_errors=tally.errors[:10],
    )


def attack_rows(bench: AttackBench) -> tuple[str, list[tuple[str, str, str]]]:
    """Return the head and the rows of the table: what, the figure, the target."""
    head = f"{bench.requests} requests, {bench.kills} kills, seed {bench.seed}"
    head += "".join(f"\n  {error}" for error in bench.first_errors)
    return head, [
        ("server errors", str(bench.server_errors), "0"),
        ("acknowledged and lost", str(bench.lost), "0"),
        ("stored twice", str(bench.doubled), "0"),
        ("slowest answer", f"{bench.slowest_s:.2f} s", f"< {SLOWEST_S:.0f} s"),
        ("memory at the most", f"{bench.memory_mb:.0f} MB", f"< {HEAVIEST_MB:.0f} MB"),
        ("small file meanwhile, p95", f"{bench.small_file_p95_ms:.0f} ms", "<= 30 ms"),
        ("small file meanwhile, p99", f"{bench.small_file_p99_ms:.0f} ms", "<= 50 ms"),
    ]


def forge(attacker: Attacker) -> None:
    """Send everything of ``hostile`` once, and look at the bench after it."""
    whole = attacker.send("export", "GET", "/api/v1/jobs/0412/export")
    for name, raw in hostile.job_files(whole.json() if whole else {}):
        headers = {"content-type": "application/json"}
        attacker.send(f"file: {name}", "POST", "/api/v1/jobs/import", content=raw, headers=headers)
    for name, call in hostile.CALLS.items():
        attacker.json(f"call: {name}", "/jobs", {"event_id": uuid4().hex, "opened": call})
    for name, body in hostile.EVENTS.items():
        attacker.json(f"event: {name}", "/jobs/0412/events", {"id": uuid4().hex, "body": body})
    for name, text in hostile.SHEETS.items():
        attacker.form(f"sheet: {name}", "/library/FB/nembrio-f7/raw", text=text, seen="0")
        attacker.form(f"import: {name}", "/library/import", text=text)
    for what, fields in hostile.FORMS.items():
        attacker.form(f"form: {what}", f"/library/FB/nembrio-f7/{what}", **fields)
    attacker.send("too large", "POST", "/import", content=b"x" * 3_000_000)
    attacker.send("chunked", "POST", "/import", content=(b"x" * 100_000 for _ in range(40)))
    attacker.send("a stranger's name", "GET", "/", headers={"host": "evil.example"})
    for path in ("/", "/?skip=-5", f"/?skip={'9' * 30}", "/?lane=x", "/jobs/0412/prove?mx=1e999"):
        attacker.send(path, "GET", path)


def writers(attacker: Attacker, base: str) -> int:
    """Let twenty people open one job, and note things on it at once; return how often anything was
    stored twice."""
    call = {"machine": "nembrio-f7", "age_years": 5, "place": "Quay"}
    event_id = uuid4().hex
    crowd = [Attacker(base, attacker.tally) for _ in range(WRITERS)]
    numbers: list[str] = []

    def open_it(one: Attacker) -> None:
        answer = one.json("one job", "/jobs", {"event_id": event_id, "opened": call})
        if answer is not None and answer.status_code == 201:
            numbers.append(answer.json()["number"])

    at_once(crowd, open_it)
    number = numbers[0] if numbers else "0412"
    noted: list[str] = []

    def note_it(one: Attacker) -> None:
        for _ in range(NOTES_EACH):
            event = {"id": uuid4().hex, "body": {"kind": "noted", "text": "written"}}
            answer = one.json("a note", f"/jobs/{number}/events", event)
            if answer is not None and answer.status_code == 201:
                noted.append(event["id"])  # type: ignore[arg-type]

    def settle_it(one: Attacker) -> None:
        one.form("settings", "/shop", visit_fee="40")

    at_once(crowd, note_it)
    at_once(crowd, settle_it)
    for one in crowd:
        one.leave()
    whole = attacker.send("export", "GET", f"/api/v1/jobs/{number}/export")
    stored = [event["id"] for event in whole.json()["events"]] if whole else []
    return len(set(numbers)) - 1 + len(stored) - len(set(stored)) + len(set(noted) - set(stored))


def full_disk(folder: Path, port: int, tally: Tally) -> int:
    """Note things until the disk is full; return how many acknowledged ones are not there
    afterwards."""
    acknowledged = []
    room = max(file.stat().st_size for file in folder.iterdir()) + ROOM_B
    with served("serve", port, folder, room_b=room):
        attacker = Attacker(f"http://127.0.0.1:{port}", tally)
        refused = 0
        for _ in range(FULL_TRIES):
            event = {"id": uuid4().hex, "body": {"kind": "noted", "text": "x" * 1900}}
            answer = attacker.json("on a full disk", "/jobs/0412/events", event)
            if answer is not None and answer.status_code == 201:
                acknowledged.append(str(event["id"]))
            else:
                refused += 1
            if refused >= FULL_ENOUGH:
                break
            attacker.send("a look on a full disk", "GET", "/")
        attacker.leave()
    return len(set(acknowledged) - set(_stored(folder, "0412")))


def kill_under_load(folder: Path, port: int, tally: Tally) -> tuple[int, int]:
    """Kill the server while four people note things; return what was acknowledged and lost, and
    stored twice."""
    acknowledged: list[str] = []
    with served("serve", port, folder) as server:
        base = f"http://127.0.0.1:{port}"
        first = Attacker(base, tally)
        call = {"machine": "FB", "age_years": 5, "place": "Quay"}
        opened = first.json("open", "/jobs", {"event_id": uuid4().hex, "opened": call})
        number = opened.json()["number"] if opened else ""

        def note(one: Attacker) -> None:
            while server.poll() is None:
                event = {"id": uuid4().hex, "body": {"kind": "noted", "text": "before the kill"}}
                try:
                    answer = one.client.post(f"/api/v1/jobs/{number}/events", json=event)
                except httpx2.TransportError:
                    return
                tally.note("a note before the kill", answer.status_code, 0.0)
                if answer.status_code == 201:
                    acknowledged.append(str(event["id"]))
                if len(acknowledged) >= 12:
                    server.send_signal(signal.SIGKILL)
                    return

        crowd = [Attacker(base, tally) for _ in range(4)]
        at_once(crowd, note)
        for one in (first, *crowd):
            one.leave()
    stored = _stored(folder, number)
    return len(set(acknowledged) - set(stored)), len(stored) - len(set(stored))


def _drawn(base: str, attacker: Attacker, seed: int, requests: int, *, end: float) -> None:
    """Send requests drawn from the API's description until there are enough, or the time is
    over."""
    import schemathesis
    from schemathesis.core.result import Ok

    schema = schemathesis.openapi.from_url(f"{base}/api/v1/openapi.json")
    found = [result.ok() for result in schema.get_all_operations() if isinstance(result, Ok)]
    for turn in itertools.count():
        if attacker.tally.requests >= requests or monotonic() > end:
            return
        _batch(found[turn % len(found)], base, attacker, seed + turn)


def _batch(operation: Any, base: str, attacker: Attacker, seed: int) -> None:
    """Send a batch of requests of one operation, drawn by the seed."""
    import hypothesis

    cookies = dict(attacker.client.cookies)
    what = f"{operation.method} {operation.path}"

    @hypothesis.seed(seed)
    @hypothesis.settings(
        max_examples=BATCH,
        database=None,
        deadline=None,
        suppress_health_check=list(hypothesis.HealthCheck),
        phases=[hypothesis.Phase.generate],
    )
    @hypothesis.given(case=operation.as_strategy())
    def send(case: Any) -> None:
        started = perf_counter()
        answer = case.call(base_url=base, cookies=cookies)
        attacker.tally.note(what, answer.status_code, perf_counter() - started)

    send()


def _stored(folder: Path, number: str) -> list[str]:
    database = open_database(folder)
    try:
        return [event.id for event in EventLog(database).stored(number)]
    finally:
        database.close()


def _peak_mb(pid: int) -> float:
    """Return the most memory a process has had, in megabytes; 0 where the system does not say."""
    try:
        status = Path(f"/proc/{pid}/status").read_text(encoding="ascii")
    except OSError:
        return 0.0
    found = re.search(r"VmHWM:\s+(\d+) kB", status)
    return int(found.group(1)) / 1024 if found else 0.0
