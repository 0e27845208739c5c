"""People at work on a running application, measured from outside: how long a job page takes, alone and in company."""

import re
import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from http.client import HTTPConnection, HTTPException, HTTPResponse
from random import Random
from subprocess import DEVNULL, Popen
from time import monotonic, perf_counter
from urllib.parse import urlencode

import numpy as np
from pydantic import BaseModel

START_TRIES = 200
THINKING_S = 5.0
"""How long a person looks at a page before the next tap, on average."""
TARGET_PAGE_P95_MS, TARGET_COMPANY_P95_MS = 60.0, 250.0
MACHINES = ("sheet:nembrio-f7", "sheet:torvane-alta-10", "sheet:calvessa-dritta-8", "sheet:pellandra-400")
WORDS = (
    "It roars in the spin.",
    "The water stays in the drum and it hums.",
    "Water on the floor.",
    "It does not spin.",
)


class Spread(BaseModel):
    """Milliseconds and how many requests they come from."""

    p50: float
    p95: float
    p99: float
    requests: int


class WebBench(BaseModel):
    """Server time of a job page after each answer to one person; time on the wire for many people at once."""

    seed: int
    people: int
    seconds: float
    job_page_ms: Spread
    company_ms: Spread
    errors: int


class Person:
    """One technician with a browser: opens a job, answers what comes next, looks at the bench in between."""

    def __init__(self, port: int, seed: int) -> None:
        self.random = Random(seed)
        self.connection = HTTPConnection("127.0.0.1", port, timeout=30)
        self.cookie, self.address, self.page = "", "", ""
        self.wire_ms: list[float] = []
        self.server_ms: list[float] = []
        self.errors = 0

    def open_job(self) -> None:
        """Take a call."""
        self._get("/call")
        form = {
            "machine": self.random.choice(MACHINES),
            "words": self.random.choice(WORDS),
            "age_years": "7",
            "place": "Load test",
        }
        self._post("/call", form)

    def leave(self) -> None:
        """Close the browser."""
        self.connection.close()

    def tap(self) -> None:
        """Do the next thing: an answer or a step of reaching, now and then a look at the bench."""
        if self.random.random() < 0.15:
            self._get("/")
            return
        self._get(self.address.rsplit("/", 1)[0] + "/prove")
        forms = re.findall(r'<form method="post" action="(/jobs/[^"]+/event[^"]*)"(.*?)</form>', self.page, re.DOTALL)
        wanted = [
            (where, body) for where, body in forms if 'value="state_changed"' in body or 'value="took_off"' in body
        ]
        asked = [(where, body) for where, body in forms if 'value="checked"' in body]
        for where, body in wanted[:1] or asked[:1]:
            fields = dict(re.findall(r'<input type="hidden" name="([^"]+)" value="([^"]*)"', body))
            outcomes = re.findall(r'name="outcome" value="([^"]+)"', body)
            if outcomes:
                fields["outcome"] = self.random.choice(outcomes)
            if "waited_min" in body:
                fields["waited_min"] = "15"
            self._post(where, fields)

    def _get(self, path: str) -> None:
        self._send("GET", path, None)

    def _post(self, path: str, fields: dict[str, str]) -> None:
        token = re.search(r'name="token" value="([^"]+)"', self.page)
        event = re.search(r'name="event_id" value="([^"]+)"', self.page)
        body = {"token": token.group(1) if token else "", "event_id": event.group(1) if event else "", **fields}
        self._send("POST", path, urlencode(body))

    def _send(self, method: str, path: str, body: str | None) -> None:
        started, spent = perf_counter(), 0.0
        for _ in range(4):
            answer = self._once(method, path, body)
            text = answer.read().decode(errors="replace")
            timing = re.search(r"dur=([\d.]+)", answer.headers.get("server-timing", ""))
            spent += float(timing.group(1)) if timing else 0.0
            if answer.status not in (302, 303):
                break
            method, path, body = "GET", answer.headers["location"], None
        self.wire_ms.append((perf_counter() - started) * 1000)
        if path.startswith("/jobs/"):
            self.server_ms.append(spent)
        self.errors += answer.status >= 400
        self.page = text
        if path.startswith("/jobs/"):
            self.address = path.partition("?")[0]

    def _once(self, method: str, path: str, body: str | None) -> HTTPResponse:
        headers = {"Cookie": self.cookie}
        if body is not None:
            headers["Content-Type"] = "application/x-www-form-urlencoded"
        try:
            self.connection.request(method, path, body, headers)
            answer = self.connection.getresponse()
        except (HTTPException, ConnectionError):
            self.connection.close()
            self.connection.request(method, path, body, headers)
            answer = self.connection.getresponse()
        if answer.headers["set-cookie"]:
            self.cookie = answer.headers["set-cookie"].partition(";")[0]
        return answer


def bench_web(
    command: list[str], port: int, seed: int, people: int, seconds: float, say: Callable[[str], None]
) -> WebBench:
    """Return the measures of the application that ``command`` starts on ``port``."""
    with running(command, port):
        say("one person alone")
        alone = Person(port, seed)
        for _ in range(5):
            alone.open_job()
            for _ in range(24):
                alone.tap()
        say(f"{people} people for {seconds:.0f} s")
        crowd = [Person(port, seed + 1 + n) for n in range(people)]
        for person in crowd:
            person.open_job()
            person.wire_ms.clear()
        end = monotonic() + seconds
        threads = [threading.Thread(target=_work, args=(person, end)) for person in crowd]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        for person in (alone, *crowd):
            person.leave()
    return WebBench(
        seed=seed,
        people=people,
        seconds=seconds,
        job_page_ms=_spread(alone.server_ms),
        company_ms=_spread([ms for person in crowd for ms in person.wire_ms]),
        errors=alone.errors + sum(person.errors for person in crowd),
    )


def web_rows(bench: WebBench) -> tuple[str, list[tuple[str, str, str]]]:
    """Return the head and the rows of the table: what, the figure, the target."""
    page, company = bench.job_page_ms, bench.company_ms
    head = f"one person, then {bench.people} people for {bench.seconds:.0f} s; seed {bench.seed}, {bench.errors} errors"
    return head, [
        ("job page, server time, p50", f"{page.p50:.0f} ms", ""),
        ("job page, server time, p95", f"{page.p95:.0f} ms", f"< {TARGET_PAGE_P95_MS:.0f} ms"),
        (f"{bench.people} people at once, p50", f"{company.p50:.0f} ms", ""),
        (f"{bench.people} people at once, p95", f"{company.p95:.0f} ms", f"< {TARGET_COMPANY_P95_MS:.0f} ms"),
        (f"{bench.people} people at once, requests", f"{company.requests}", ""),
    ]


def _work(person: Person, end: float) -> None:
    pause = threading.Event()
    while True:
        thinks = person.random.expovariate(1 / THINKING_S)
        if monotonic() + thinks >= end:
            return
        pause.wait(thinks)
        person.tap()


def _spread(taken: list[float]) -> Spread:
    """Return the spread of some milliseconds; all zero when nobody got to a request."""
    if not taken:
        return Spread(p50=0, p95=0, p99=0, requests=0)
    p50, p95, p99 = (round(float(value), 1) for value in np.percentile(taken, (50, 95, 99)))
    return Spread(p50=p50, p95=p95, p99=p99, requests=len(taken))


@contextmanager
def running(command: list[str], port: int) -> Iterator[None]:
    """Run the application for as long as the block lasts. Raises RuntimeError when it does not come up."""
    with Popen(command, stdout=DEVNULL, stderr=DEVNULL) as server:
        try:
            _wait_for(port)
            yield
        finally:
            server.terminate()


def _wait_for(port: int) -> None:
    pause = threading.Event()
    for _ in range(START_TRIES):
        connection = HTTPConnection("127.0.0.1", port, timeout=5)
        try:
            connection.request("GET", "/shop")
            if connection.getresponse().status == 200:
                return
        except OSError:
            pause.wait(0.2)
        finally:
            connection.close()
    raise RuntimeError(f"The application did not come up on port {port}.")
