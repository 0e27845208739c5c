"""A browser in the wrong hands, and the count of what came back."""

import json
import re
import threading
from collections.abc import Callable
from dataclasses import dataclass, field
from time import perf_counter
from typing import Any
from uuid import uuid4

import httpx2

STATED = {503, 507}
"""Answers that say what is wrong with the store; every other 5xx is an error of ours."""


@dataclass
class Tally:
    """What came back, counted; may be told from many threads."""

    requests: int = 0
    errors: list[str] = field(default_factory=list)
    slowest_s: float = 0.0
    lock: threading.Lock = field(default_factory=threading.Lock)

    def note(self, what: str, status: int, taken_s: float) -> None:
        """Count an answer."""
        with self.lock:
            self.requests += 1
            self.slowest_s = max(self.slowest_s, taken_s)
            if status >= 500 and status not in STATED:
                self.errors.append(f"{what}: {status}")


class Attacker:
    """A browser in the wrong hands."""

    def __init__(self, base: str, tally: Tally) -> None:
        self.client = httpx2.Client(base_url=base, timeout=60, trust_env=False)
        self.tally = tally
        page = self.client.get("/shop").text
        found = re.search(r'name="token"\s+value="([^"]+)"', page)
        self.token = found.group(1) if found else ""

    def leave(self) -> None:
        """Close the browser."""
        self.client.close()

    def send(self, what: str, method: str, path: str, **options: Any) -> httpx2.Response | None:
        """Send a request and count its answer; None when nothing came back."""
        started = perf_counter()
        try:
            answer = self.client.request(method, path, **options)
        except (httpx2.TransportError, UnicodeError) as error:
            self.tally.note(f"{what}: {type(error).__name__}", 599, perf_counter() - started)
            return None
        self.tally.note(what, answer.status_code, perf_counter() - started)
        return answer

    def json(self, what: str, path: str, body: object) -> httpx2.Response | None:
        """Send JSON as it is, also what no proper client would."""
        raw = json.dumps(body).encode("utf-8", "surrogatepass")
        headers = {"content-type": "application/json"}
        return self.send(what, "POST", f"/api/v1{path}", content=raw, headers=headers)

    def upload(
        self, what: str, path: str, name: str, raw: bytes, **fields: str
    ) -> httpx2.Response | None:
        """Send a form with a file."""
        data = {"token": self.token, "event_id": uuid4().hex, **fields}
        return self.send(what, "POST", path, data=data, files={name: ("x", raw)})

    def form(self, what: str, path: str, **fields: str) -> httpx2.Response | None:
        """Send a form with the session's token."""
        return self.send(
            what, "POST", path, data={"token": self.token, "event_id": uuid4().hex, **fields}
        )


def at_once(crowd: list[Attacker], work: Callable[[Attacker], None]) -> None:
    """Let all of them work at once, and wait for the last."""
    threads = [threading.Thread(target=work, args=(one,)) for one in crowd]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
