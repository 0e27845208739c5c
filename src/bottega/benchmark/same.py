"""Hold this version's answers against those of another checkout: the same jobs, fleets and pages,
asked of both by their own commands and addresses, so that neither knows the other's names."""

import re
from collections.abc import Callable, Iterator
from contextlib import ExitStack
from html.parser import HTMLParser
from itertools import zip_longest
from math import isclose
from pathlib import Path
from random import Random
from typing import Any

import httpx2
from pydantic import BaseModel

from bottega.app.workshop import Workshop, open_workshop
from bottega.benchmark.policy import all_archetypes
from bottega.benchmark.served import HERE, figures_of, served, source_of
from bottega.benchmark.walk import Walker, WalkFindings
from bottega.core.job.events import Complained
from bottega.core.job.file import JobFile, stored

LEAST, MOST = 4, 40
"""Commands of one job; chosen."""
EQUAL = 1e-12
"""How far two figures may lie apart, over the larger of them and one."""
MOST_PAGES = 500
EXAMPLES = 20
TAKEN = 201
CHANGING = (
    re.compile(r"\b\d{1,2}:\d\d\b"),
    re.compile(r"127\.0\.0\.1::\d+"),
    re.compile(r"\b[0-9a-f]{8,}(-[0-9a-f]{4}){0,3}(-[0-9a-f]{12})?\b"),
)
"""What differs from one look to the next in the text of a page: the time of day, ports, and names
drawn at random."""


class Compared(BaseModel):
    """How many things of one sort were compared, and which were not the same."""

    count: int
    other: list[str]


class SameBench(BaseModel):
    """What was not the same here and there."""

    seed: int
    pages: Compared
    jobs: Compared
    fleet: Compared


class _Text(HTMLParser):
    """The words of a page, and where its links lead."""

    def __init__(self) -> None:
        super().__init__()
        self.words: list[str] = []
        self.links: list[str] = []
        self._quiet = 0

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        self._quiet += tag in ("script", "style")
        self.links += [value for name, value in attrs if name == "href" and value]

    def handle_endtag(self, tag: str) -> None:
        self._quiet -= tag in ("script", "style")

    def handle_data(self, data: str) -> None:
        if not self._quiet and data.strip():
            self.words.append(" ".join(data.split()))


class _Side:
    """One version, as a shop with demo data that is asked by HTTP."""

    def __init__(self, base: str) -> None:
        self.client = httpx2.Client(
            base_url=base, timeout=60, trust_env=False, follow_redirects=True
        )
        self.client.get("/shop")

    def page(self, path: str) -> tuple[list[str], list[str]]:
        """Return the words of a page, with its status, and its links."""
        answer = self.client.get(path)
        text = _Text()
        if "html" in answer.headers.get("content-type", ""):
            text.feed(answer.text)
        return [str(answer.status_code), *text.words], text.links

    def diagnosis(self, raw: str) -> Any:
        """Return what is believed of a job that is brought in as a file."""
        headers = {"content-type": "application/json"}
        answer = self.client.post("/api/v1/jobs/import", content=raw, headers=headers)
        if answer.status_code != TAKEN:
            return answer.json()
        number = answer.json()["number"]
        return self.client.get(f"/api/v1/jobs/{number}/diagnosis").json()


def bench_same(
    path: Path,
    folder: Path,
    port: int,
    seed: int,
    *,
    jobs: int,
    machines: int,
    say: Callable[[str], None],
) -> SameBench:
    """Return what is not the same in the version at ``path``: of the demo's pages, of ``jobs``
    random jobs a kind, and of a fleet of so many ``machines``. Raises NotBottega."""
    there = source_of(path)
    with ExitStack() as stack:
        sides = [
            _Side(_serve(stack, source, port + n, folder / str(n)))
            for n, source in enumerate((HERE, there))
        ]
        say("the demo's pages")
        here, other = sides
        pages = _pages(here, other)
        say(f"{jobs} random jobs a kind")
        answers = _jobs(here, other, seed, jobs)
    say(f"a fleet of {machines}")
    words = ["fleet", "--seed", str(seed), "--machines", str(machines)]
    fleets = [figures_of(source, *words) for source in (HERE, there)]
    unlike = list(unequal(*fleets))
    fleet = Compared(count=machines, other=unlike[:EXAMPLES])
    return SameBench(seed=seed, pages=pages, jobs=answers, fleet=fleet)


def _serve(stack: ExitStack, source: Path, port: int, folder: Path) -> str:
    stack.enter_context(served("demo", port, folder, source=source))
    return f"http://127.0.0.1:{port}"


def same_rows(bench: SameBench) -> tuple[str, list[tuple[str, str, str]]]:
    """Return the head and the rows of the table, with what was not the same below the head."""
    parts = (
        ("pages of the demo", bench.pages),
        ("random jobs", bench.jobs),
        ("fleet", bench.fleet),
    )
    head = f"this version and the other, seed {bench.seed}"
    head += "".join(f"\n  {line}" for _, part in parts for line in part.other)
    return head, [
        (name, f"{part.count}, not the same {len(part.other)}", "0") for name, part in parts
    ]


def unequal(one: Any, other: Any, where: str = "") -> Iterator[str]:
    """Yield the places in which two pieces of plain data differ, figures by more than EQUAL."""
    if isinstance(one, dict) and isinstance(other, dict):
        for key in sorted({*one, *other}):
            yield from unequal(one.get(key), other.get(key), f"{where}.{key}")
    elif isinstance(one, list) and isinstance(other, list):
        for n, (a, b) in enumerate(zip_longest(one, other)):
            yield from unequal(a, b, f"{where}[{n}]")
    elif isinstance(one, float) and isinstance(other, float):
        if not isclose(one, other, rel_tol=EQUAL, abs_tol=EQUAL):
            yield f"{where}: {one!r} here, {other!r} there"
    elif one != other:
        yield f"{where}: {str(one)[:60]!r} here, {str(other)[:60]!r} there"


def random_jobs(workshop: Workshop, kind: str, seed: int, count: int) -> Iterator[JobFile]:
    """Yield jobs of one kind by random commands, as files."""
    rng = Random(f"same {seed} {kind}")
    walker = Walker(workshop, kind, rng, WalkFindings())
    phrases = sorted(walker.machine.complaints)
    for n in range(count):
        walker.begin()
        said = tuple(rng.sample(phrases, rng.randint(0, 2)))
        if said:
            walker.give(Complained(text="As it was said.", said=said))
        until = rng.randint(LEAST, MOST)
        while len(walker.log) < until:
            walker.wander()
        events = [
            stored(event.model_copy(update={"id": f"{kind}-{seed}-{n}-{event.id}"}))
            for event in walker.log
        ]
        yield JobFile(number=f"{kind}-{n}", exported_at=walker.log[-1].at, events=events)


def _jobs(here: _Side, there: _Side, seed: int, count: int) -> Compared:
    workshop, other, done = open_workshop(None), [], 0
    for kind in all_archetypes():
        for job in random_jobs(workshop, kind, seed, count):
            raw, done = job.model_dump_json(), done + 1
            found = list(unequal(here.diagnosis(raw), there.diagnosis(raw), job.number))
            other += found[:1]
    return Compared(count=done, other=other[:EXAMPLES])


def _pages(here: _Side, there: _Side) -> Compared:
    """Compare page by page along the links of this version's pages, each address once."""
    ways, known, other = ["/"], {"/"}, []
    for way in ways:
        words, links = here.page(way)
        found = unequal(_lasting(words), _lasting(there.page(way)[0]), way)
        other += list(found)[:1]
        for link in links:
            leads = link.startswith("/") and not link.startswith(("/static", "//"))
            if leads and link not in known and len(known) < MOST_PAGES:
                known.add(link)
                ways.append(link)
    return Compared(count=len(ways), other=other[:EXAMPLES])


def _lasting(words: list[str]) -> list[str]:
    """Return the words of a page without what changes from one look to the next."""
    for pattern in CHANGING:
        words = [pattern.sub("…", word) for word in words]
    return words
