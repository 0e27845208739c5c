"""Made-up people at work on a running application: each opens a job of their own and answers what
comes next."""

import re
import threading
from random import Random
from time import monotonic, perf_counter

import httpx2

THINKING_S = 5.0
"""How long a person looks at a page before the next tap, on average, in seconds; chosen, as watched
at the bench."""
LOOKS_AT_BENCH = 0.15
"""Share of taps that go to the bench; chosen."""
MOST_HOPS = 4
"""Redirects a tap follows; chosen, a page has at most two."""
MACHINES = ("nembrio-f7", "torvane-alta-10", "calvessa-dritta-8", "pellandra-400")
WORDS = (
    "It roars in the spin.",
    "The water stays in the drum and it hums.",
    "Water on the floor.",
    "It does not spin.",
)
WAITS = 'name="measured_v"'
"""Stands in the form of a stored charge, which is waited for by the clock."""
FORMS = re.compile(
    r'<form method="post"\s+action="(/jobs/[^"]+/event[^"]*)"(.*?)</form>', re.DOTALL
)
HIDDEN = re.compile(r'<input type="hidden"\s+name="([^"]+)"\s+value="([^"]*)"')
OUTCOMES = re.compile(r'name="outcome"\s+value="([^"]+)"')


class Person:
    """One technician with a browser: opens a job, answers what comes next, looks at the bench in
    between."""

    def __init__(self, base: str, seed: int) -> None:
        self.random = Random(seed)
        self.client = httpx2.Client(base_url=base, timeout=30, trust_env=False)
        self.job, self.page = "", ""
        self.wire_ms: list[float] = []
        self.spent_ms: list[float] = []
        """The server's own time for each request, in milliseconds."""
        self.server_ms: list[float] = []
        """The same for each tap that ended on a job's page."""
        self.errors = 0

    def open_job(self) -> None:
        """Take a call."""
        self.look_at_call()
        self.send_call()

    def look_at_bench(self) -> None:
        """Go to the bench."""
        self._send("GET", "/")

    def look_at_call(self) -> None:
        """Go to the call."""
        self._send("GET", "/call")

    def send_call(self) -> None:
        """Open a job from the call that is on the screen."""
        machine, text = self.random.choice(MACHINES), self.random.choice(WORDS)
        form = {"machine": machine, "text": text, "age_years": "7", "place": "Load test"}
        self._post("/call", form)

    def leave(self) -> None:
        """Close the browser."""
        self.client.close()

    def tap(self) -> None:
        """Do the next thing: an answer or a step of reaching, now and then a look at the bench."""
        if self.random.random() < LOOKS_AT_BENCH:
            self.look_at_bench()
            return
        self._send("GET", f"{self.job}/prove")
        forms = FORMS.findall(self.page)
        steps = [f for f in forms if 'value="state_changed"' in f[1] or 'value="took_off"' in f[1]]
        asked = [f for f in forms if 'value="checked"' in f[1]]
        if steps and WAITS in steps[0][1]:
            self.open_job()  # the next call meanwhile
            return
        for where, body in steps[:1] or asked[:1]:
            fields = dict(HIDDEN.findall(body))
            outcomes = OUTCOMES.findall(body)
            if outcomes:
                fields["outcome"] = self.random.choice(outcomes)
            self._post(where, fields)

    def work(self, end: float) -> None:
        """Think and tap in turn until a moment of the monotonic clock."""
        pause = threading.Event()
        while True:
            thinks = self.random.expovariate(1 / THINKING_S)
            if monotonic() + thinks >= end:
                return
            pause.wait(thinks)
            self.tap()

    def _post(self, path: str, fields: dict[str, str]) -> None:
        known = dict(HIDDEN.findall(self.page))
        form = {"token": known.get("token", ""), "event_id": known.get("event_id", ""), **fields}
        self._send("POST", path, form)

    def _send(self, method: str, path: str, form: dict[str, str] | None = None) -> None:
        """Send a request and go where it leads; the whole of it is one tap."""
        started, spent = perf_counter(), 0.0
        for _ in range(MOST_HOPS):
            answer = self.client.request(method, path, data=form)
            timing = re.search(r"dur=([\d.]+)", answer.headers.get("server-timing", ""))
            self.spent_ms.append(float(timing.group(1)) if timing else 0.0)
            spent += self.spent_ms[-1]
            if answer.status_code not in (302, 303):
                break
            method, path, form = "GET", answer.headers["location"], None
        self.wire_ms.append((perf_counter() - started) * 1000)
        self.errors += answer.status_code >= 400
        self.page = answer.text
        if path.startswith("/jobs/"):
            self.server_ms.append(spent)
            self.job = "/".join(path.split("/")[:3])
