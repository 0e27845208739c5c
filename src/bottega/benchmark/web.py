"""How the running application does, measured from outside: alone, in company, and with how many it
is too slow."""

import os
import threading
from collections.abc import Callable
from math import log
from pathlib import Path
from time import monotonic, perf_counter

import httpx2
import numpy as np
from pydantic import BaseModel

from bottega.benchmark.many import fill_many
from bottega.benchmark.people import Person
from bottega.benchmark.served import served

"""How often and how far apart (seconds) a starting application is asked; chosen, a filling demo
shop takes ten seconds."""
JOBS_ALONE, TAPS_A_JOB = 5, 24
"""What the one person does; chosen, a job grows to its usual length."""
MORE = 1.4
"""By what the company grows from stage to stage; chosen."""
SLOW_MS = 250.0
"""A page that takes longer is felt as waiting."""
STATIC_FILE = "/static/app.css"
STATIC_LOOKS = 150
"""How often the small file is fetched; chosen, enough for a p95."""
MANY_JOBS, MANY_LOOKS = 2000, 60
"""The shop that is a few years old, and how often its bench is looked at; chosen."""
TARGET_PAGE_P95_MS, TARGET_PEOPLE, TARGET_STATIC_MS = 60.0, 100.0, 30.0
TARGET_BENCH_MS, TARGET_OPENING_MS = 80.0, 60.0
"""Targets in milliseconds and people; chosen."""


class Spread(BaseModel):
    """Milliseconds and how many requests they come from."""

    p50: float
    p95: float
    p99: float
    requests: int


class Company(BaseModel):
    """Some people at work at once: their taps on the wire, and the server's own time on the
    processor for each."""

    people: int
    wire_ms: Spread
    cpu_ms_per_request: float


class WebBench(BaseModel):
    """One person alone, a company, ever larger companies, and a small file beside somebody who
    posts without end."""

    seed: int
    people: int
    seconds: float
    job_page_ms: Spread
    company_ms: Spread
    cpu_ms_per_request: float
    people_at_250_ms: float
    static_alone_ms: Spread
    static_beside_posts_ms: Spread
    static_delay_ms: float
    many_bench_ms: Spread
    many_opening_ms: Spread
    companies: list[Company]
    errors: int


def bench_web(
    folder: Path,
    port: int,
    seed: int,
    people: int,
    *,
    seconds: float,
    most: int,
    say: Callable[[str], None],
) -> WebBench:
    """Return the measures of the application, served on ``port`` with a demo shop in ``folder``."""
    base = f"http://127.0.0.1:{port}"
    with served("demo", port, folder) as server:
        say("one person alone")
        alone = Person(base, seed)
        for _ in range(JOBS_ALONE):
            alone.open_job()
            for _ in range(TAPS_A_JOB):
                alone.tap()
        say("a small file, alone and beside posts")
        quiet = _static(base, STATIC_LOOKS)
        beside = _static_beside(base, alone)
        companies, errors = [], alone.errors
        alone.leave()
        size = people
        while True:
            say(f"{size} people for {seconds:.0f} s")
            company, wrong = _company(base, server.pid, seed + size, size, seconds=seconds)
            companies.append(company)
            errors += wrong
            if company.wire_ms.p95 > SLOW_MS or size >= most:
                break
            size = min(most, round(size * MORE))
    say(f"a shop with {MANY_JOBS} jobs more")
    fill_many(folder, MANY_JOBS, seed)
    with served("demo", port, folder):
        bench, opening, wrong = _many(base, seed)
    return WebBench(
        seed=seed,
        people=people,
        seconds=seconds,
        job_page_ms=spread(alone.server_ms),
        company_ms=companies[0].wire_ms,
        cpu_ms_per_request=companies[0].cpu_ms_per_request,
        people_at_250_ms=round(people_at(companies, SLOW_MS), 1),
        static_alone_ms=quiet,
        static_beside_posts_ms=beside,
        static_delay_ms=round(beside.p95 - quiet.p50, 1),
        many_bench_ms=bench,
        many_opening_ms=opening,
        companies=companies,
        errors=errors + wrong,
    )


def people_at(companies: list[Company], slow_ms: float) -> float:
    """Return how many people push the p95 over ``slow_ms``: between two stages by the logarithm of
    their times.

    The largest company when none was that slow; that share of the first when even it was.
    """
    before: Company | None = None
    for company in companies:
        if company.wire_ms.p95 > slow_ms:
            if before is None:
                return company.people * slow_ms / company.wire_ms.p95
            low, high = (log(max(c.wire_ms.p95, 1.0)) for c in (before, company))
            share = (log(slow_ms) - low) / (high - low)
            return before.people + share * (company.people - before.people)
        before = company
    return float(companies[-1].people)


def web_rows(bench: WebBench) -> tuple[str, list[tuple[str, str, str]]]:
    """Return the head and the rows of the table: what, the figure, the target."""
    page, company = bench.job_page_ms, bench.company_ms
    stages = ", ".join(str(stage.people) for stage in bench.companies)
    head = (
        f"one person, then {stages} people for {bench.seconds:.0f} s each; "
        f"seed {bench.seed}, {bench.errors} errors"
    )
    crowd = f"{bench.people} people at once"
    return head, [
        ("job page, server time, p50", f"{page.p50:.0f} ms", ""),
        ("job page, server time, p95", f"{page.p95:.0f} ms", f"< {TARGET_PAGE_P95_MS:.0f} ms"),
        (f"{crowd}, p50", f"{company.p50:.0f} ms", ""),
        (f"{crowd}, p95", f"{company.p95:.0f} ms", f"< {SLOW_MS:.0f} ms"),
        (f"{crowd}, processor a tap", f"{bench.cpu_ms_per_request:.0f} ms", ""),
        ("people at a p95 of 250 ms", f"{bench.people_at_250_ms:.0f}", f">= {TARGET_PEOPLE:.0f}"),
        ("small file alone, p50", f"{bench.static_alone_ms.p50:.1f} ms", ""),
        ("small file beside posts, p95", f"{bench.static_beside_posts_ms.p95:.1f} ms", ""),
        ("posts delay it by", f"{bench.static_delay_ms:.1f} ms", f"< {TARGET_STATIC_MS:.0f} ms"),
        (
            f"bench of {MANY_JOBS} jobs, p95",
            f"{bench.many_bench_ms.p95:.0f} ms",
            f"< {TARGET_BENCH_MS:.0f} ms",
        ),
        (
            "opening a job beside them, p95",
            f"{bench.many_opening_ms.p95:.0f} ms",
            f"< {TARGET_OPENING_MS:.0f} ms",
        ),
    ]


def spread(taken: list[float]) -> Spread:
    """Return the spread of some milliseconds; all zero when nobody got to a request."""
    if not taken:
        return Spread(p50=0, p95=0, p99=0, requests=0)
    p50, p95, p99 = (round(float(value), 1) for value in np.percentile(taken, (50, 95, 99)))
    return Spread(p50=p50, p95=p95, p99=p99, requests=len(taken))


def _company(base: str, pid: int, seed: int, people: int, *, seconds: float) -> tuple[Company, int]:
    crowd = [Person(base, seed + n) for n in range(people)]
    for person in crowd:
        person.open_job()
        person.wire_ms.clear()
    before, end = _processor_s(pid), monotonic() + seconds
    threads = [threading.Thread(target=person.work, args=(end,)) for person in crowd]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    for person in crowd:
        person.leave()
    taken = [ms for person in crowd for ms in person.wire_ms]
    spent_ms = (_processor_s(pid) - before) * 1000
    company = Company(
        people=people,
        wire_ms=spread(taken),
        cpu_ms_per_request=round(spent_ms / max(len(taken), 1), 1),
    )
    return company, sum(person.errors for person in crowd)


def _static(base: str, looks: int) -> Spread:
    """Return how long a small file takes, fetched again and again over one connection."""
    taken = []
    with httpx2.Client(base_url=base, trust_env=False) as client:
        for _ in range(looks):
            started = perf_counter()
            client.get(STATIC_FILE).raise_for_status()
            taken.append((perf_counter() - started) * 1000)
    return spread(taken)


def _static_beside(base: str, person: Person) -> Spread:
    """Return how long a small file takes while somebody posts without a pause."""
    done = threading.Event()

    def post() -> None:
        while not done.is_set():
            person.open_job()
            for _ in range(TAPS_A_JOB):
                if not done.is_set():
                    person.tap()

    thread = threading.Thread(target=post)
    thread.start()
    try:
        return _static(base, STATIC_LOOKS)
    finally:
        done.set()
        thread.join()


def _many(base: str, seed: int) -> tuple[Spread, Spread, int]:
    """Return the server's time for the bench and for opening a job (the call's form and the job's
    first page apart), and the errors."""
    person = Person(base, seed)
    person.look_at_bench()
    person.spent_ms.clear()
    for _ in range(MANY_LOOKS):
        person.look_at_bench()
    looks = list(person.spent_ms)
    openings = []
    for _ in range(MANY_LOOKS):
        person.look_at_call()
        person.spent_ms.clear()
        person.send_call()
        openings.append(person.spent_ms[0])
    person.leave()
    return spread(looks), spread(openings), person.errors


def _processor_s(pid: int) -> float:
    """Return the seconds a process has had on the processor; 0 where the system does not say."""
    try:
        fields = Path(f"/proc/{pid}/stat").read_text(encoding="ascii").rpartition(")")[2].split()
    except OSError:
        return 0.0
    return (int(fields[11]) + int(fields[12])) / os.sysconf("SC_CLK_TCK")
