"""What once felled the application, family by family, sent again: odd values in every field, files
that unfold, meters that never end, costly addresses, two writers at once."""

import io
import json
import struct
import subprocess
import sys
import threading
import zipfile
import zlib
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from dataclasses import dataclass, field
from pathlib import Path
from socket import create_server, socket
from time import perf_counter
from uuid import uuid4

import httpx2

from bottega.benchmark.attacker import Attacker, at_once
from bottega.benchmark.hostile import NASTY
from bottega.benchmark.web import STATIC_FILE, Spread, spread

SHEET = "/library/FB/nembrio-f7"
FIELDS = {
    f"{SHEET}/part": ("number", "price", "revision", "tell", "replaces"),
    f"{SHEET}/value": ("key", "low", "high", "unit", "source"),
    f"{SHEET}/code": ("code", "shows", "name", "reads"),
    f"{SHEET}/csv": ("table",),
    "/shop": ("visit_fee", "seals", "ferry_days", "currency"),
    "/shop/gear": ("name", "accuracy", "calibrated", "resource"),
    "/call": ("place", "age", "complaint", "customer"),
    "/jobs/0412/decide/decide": ("choice", "repair", "reason"),
    "/jobs/0412/prove/reading": ("check", "typed", "unit", "at"),
}
COSTLY = (
    "/seals?shaft=35&bore=52&depth=60&bore_2=52.1&depth_2=60",
    "/api/v1/seals?shaft=35&bore=52&depth=60&bore_2=52.1&depth_2=60",
    "/library/report",
)
GEAR = 24
"""Instruments written down at once; chosen, fewer than a shop may have."""
STREAMS = 180
"""Pages that listen at once; chosen, more than are let."""
NOTES, READS = 3000, 400
"""Entries of the long jobs that come in; chosen, within what a file may hold."""
EVERY = httpx2.Limits(max_connections=None)
PROBE_S = 0.05
"""Between two looks at the small file."""


@dataclass
class Probe:
    """Fetches the small file again and again while all else goes on, so that the loop's own delay
    is seen from outside."""

    base: str
    taken: list[float] = field(default_factory=list)
    _over: threading.Event = field(default_factory=threading.Event)

    @contextmanager
    def running(self) -> Iterator[None]:
        """Probe for as long as the block lasts."""
        thread = threading.Thread(target=self._work, daemon=True)
        thread.start()
        try:
            yield
        finally:
            self._over.set()
            thread.join()

    def _work(self) -> None:
        with httpx2.Client(base_url=self.base, trust_env=False, timeout=60) as client:
            while not self._over.wait(PROBE_S):
                begun = perf_counter()
                with suppress(httpx2.TransportError):
                    client.get(STATIC_FILE)
                    self.taken.append((perf_counter() - begun) * 1000)

    @property
    def spread(self) -> Spread:
        """Return what was taken, in milliseconds."""
        return spread(self.taken or [0.0])


def besiege(attacker: Attacker, folder: Path, say: Callable[[str], None]) -> int:
    """Send every family once; return how many acknowledged changes are not there afterwards, or
    were taken for what was sent before."""
    lost = 0
    for words, family in FAMILIES.items():
        say(words)
        lost += family(attacker, folder)
    return lost


def _odd_values(attacker: Attacker, _folder: Path) -> int:
    for address, fields in FIELDS.items():
        for name in fields:
            for value in NASTY:
                attacker.form(f"{address}, {name}", address, seen="0", **{name: value})
    return 0


def _costly(attacker: Attacker, _folder: Path) -> int:
    for address in COSTLY:
        attacker.send("costly", "GET", address)
        headers = {"sec-fetch-site": "cross-site", "sec-fetch-dest": "image"}
        found = attacker.send("costly, from elsewhere", "GET", address, headers=headers)
        if found is not None and found.status_code == 200:
            attacker.tally.note("answered a stranger's picture", 599, 0.0)
    return 0


def _without_bounds(attacker: Attacker, _folder: Path) -> int:
    for body in (b'{"said": [' + b"1," * 800_000 + b"1]}", b'{"opened": ' + b"[" * 300_000):
        headers = {"content-type": "application/json"}
        attacker.send("no bounds", "POST", "/api/v1/jobs", content=body, headers=headers)
        attacker.upload("no bounds", "/import", "file", body)
    return 0


def _unfolding(attacker: Attacker, _folder: Path) -> int:
    for raw in (_bomb(), _many_names(60_000), _wide_png(9400)):
        attacker.upload("unfolds", "/import", "file", raw)
        attacker.upload("unfolds", "/jobs/0412/panel/flashes", "photo", raw, seen="0")
    return 0


def _same_id(attacker: Attacker, _folder: Path) -> int:
    """Send another body under an id that is taken; what is acknowledged all the same was
    dropped."""
    dropped, one = 0, uuid4().hex
    for text in ("230", "0.4", "12"):
        body = {"id": one, "body": {"kind": "noted", "text": text}}
        found = attacker.json("the same id", "/jobs/0412/events", body)
        dropped += text != "230" and found is not None and found.status_code < 300
    return dropped


def _gear_at_once(attacker: Attacker, _folder: Path) -> int:
    crowd = [Attacker(str(attacker.client.base_url), attacker.tally) for _ in range(8)]
    names = [f"Siege {n}" for n in range(GEAR)]

    def write(one: Attacker) -> None:
        for name in names[crowd.index(one) :: len(crowd)]:
            one.form("gear", "/shop/gear", name=name, measures="power")

    at_once(crowd, write)
    page = attacker.client.get("/shop/gear").text
    for one in crowd:
        one.leave()
    return sum(f">{name}<" not in page for name in names)


def _endless_meter(attacker: Attacker, _folder: Path) -> int:
    with _endless() as port:
        line = f"TCPIP::127.0.0.1::{port}::SOCKET"
        attacker.form("meter", "/shop/gear", name="Endless", measures="power", resource=line)
        for _ in range(4):
            attacker.form("try it", "/shop/gear/try", name="Endless")
            attacker.send("a page meanwhile", "GET", "/shop")
    attacker.form("meter", "/shop/gear/drop", name="Endless")
    return 0


def _listening(attacker: Attacker, _folder: Path) -> int:
    base = str(attacker.client.base_url)
    with httpx2.Client(base_url=base, trust_env=False, timeout=10, limits=EVERY) as client:
        open_ = []
        for _ in range(STREAMS):
            stream = client.stream("GET", "/jobs/0412/live", params={"seen": 0})
            with suppress(httpx2.TransportError):
                stream.__enter__()
                open_.append(stream)
        attacker.send("a page beside them", "GET", "/")
        for stream in open_:
            with suppress(Exception):
                stream.__exit__(None, None, None)
    return 0


def _long_jobs(attacker: Attacker, _folder: Path) -> int:
    whole = attacker.client.get("/api/v1/jobs/0412/export").json()
    read = {"kind": "panel_read", "result": "codes", "codes": ["1-1"]}
    for body, count in (({"kind": "noted", "text": "x"}, NOTES), (read, READS)):
        head = {**whole["events"][-1], "version": 1, "body": body}
        own = uuid4().hex[:8]
        grown = [{**one, "id": f"{own}-{n}"} for n, one in enumerate([*whole["events"]])]
        grown += [{**head, "id": f"{own}-long-{n}"} for n in range(count)]
        raw = json.dumps({**whole, "number": f"L{own[:6]}", "events": grown}).encode()
        found = attacker.upload("a long job", "/import", "file", raw)
        where = found.headers.get("location", "") if found is not None else ""
        for page in ("prove", "thinking", "report") if where.startswith("/jobs/") else ():
            attacker.send(f"a long job, {page}", "GET", f"{where.split('?')[0]}/{page}")
    return 0


def _second_writer(attacker: Attacker, folder: Path) -> int:
    """Start a second server and put a copy back under the first; either that goes is a loss."""
    copy, lost = folder.parent / "copy.sqlite", 0
    bottega = [sys.executable, "-m", "bottega"]
    subprocess.run([*bottega, "backup", str(copy), "--data", str(folder), "--force"], check=False)
    for words in (["serve", "--port", "0"], ["restore", str(copy), "--force"]):
        command = [*bottega, *words, "--data", str(folder)]
        with suppress(subprocess.TimeoutExpired):
            done = subprocess.run(command, capture_output=True, timeout=20, check=False)
            lost += done.returncode == 0
    return lost


FAMILIES: dict[str, Callable[[Attacker, Path], int]] = {
    "odd values in every field": _odd_values,
    "costly addresses, and from elsewhere": _costly,
    "bodies without bounds": _without_bounds,
    "files that unfold": _unfolding,
    "another value under the same id": _same_id,
    "instruments written down at once": _gear_at_once,
    "a meter that never ends": _endless_meter,
    "pages that listen": _listening,
    "jobs of a long history": _long_jobs,
    "a second writer of the folder": _second_writer,
}


def _bomb() -> bytes:
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED) as out:
        out.writestr("job.json", b"{}")
        out.writestr("photos/a.jpg", bytes(400_000_000))
    return packed.getvalue()


def _many_names(count: int) -> bytes:
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w", zipfile.ZIP_STORED) as out:
        for n in range(count):
            out.writestr(f"{n}", b"")
    return packed.getvalue()[-2_000_000:]


def _wide_png(points: int) -> bytes:
    """Return a PNG of sixteen bits a point, all black (PNG, ISO/IEC 15948, 11.2)."""

    def chunk(kind: bytes, data: bytes) -> bytes:
        head = struct.pack(">I", len(data)) + kind + data
        return head + struct.pack(">I", zlib.crc32(kind + data))

    row = bytes(1 + points * 6)
    packer, packed = zlib.compressobj(9), b""
    for _ in range(points):
        packed += packer.compress(row)
    size = struct.pack(">IIBBBBB", points, points, 16, 2, 0, 0, 0)
    body = chunk(b"IHDR", size) + chunk(b"IDAT", packed + packer.flush()) + chunk(b"IEND", b"")
    return b"\x89PNG\r\n\x1a\n" + body


@contextmanager
def _endless() -> Iterator[int]:
    """Serve a meter that sends figures and no end of line."""
    server, over = create_server(("127.0.0.1", 0)), threading.Event()

    def flood(connection: socket) -> None:
        with connection, suppress(OSError):
            while not over.is_set():
                connection.sendall(b"9" * 65536)

    def serve() -> None:
        while not over.is_set():
            with suppress(OSError):
                connection, _ = server.accept()
                threading.Thread(target=flood, args=(connection,), daemon=True).start()

    threading.Thread(target=serve, daemon=True).start()
    try:
        yield server.getsockname()[1]
    finally:
        over.set()
        server.close()
