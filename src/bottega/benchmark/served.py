"""The application, served by its own command for as long as a bench asks it."""

import json
import os
import subprocess
import sys
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from subprocess import DEVNULL, Popen
from typing import Any, Literal

import httpx2

HERE = Path(__file__).parents[2]
"""Where this version's sources are."""
START_TRIES, START_PAUSE_S = 200, 0.2


class NotBottega(ValueError):
    """A path without a checkout of Bottega, or one whose bench does not run; says what was
    found."""


def source_of(path: Path) -> Path:
    """Return where the sources of a checkout are. Raises NotBottega."""
    for source in (path / "src", path):
        if (source / "bottega" / "__main__.py").is_file():
            return source.resolve()
    raise NotBottega(f"found no bottega/__main__.py under {path}, expected a checkout of Bottega")


def environment(source: Path) -> dict[str, str]:
    """Return the environment in which ``python -m bottega`` runs the version at ``source``."""
    return {**os.environ, "PYTHONPATH": str(source), "PYTHONUNBUFFERED": "1"}


def figures_of(source: Path, *words: str) -> Any:
    """Return what a bench of the version at ``source`` prints as JSON. Raises NotBottega."""
    run = subprocess.run(
        [sys.executable, "-m", "bottega", "bench", *words, "--json"],
        env=environment(source),
        cwd=source,
        capture_output=True,
        text=True,
    )
    if run.returncode:
        last = (run.stderr.strip().splitlines() or ["nothing"])[-1]
        raise NotBottega(f"the bench of {source} ended with '{last}', expected its figures")
    return json.loads(run.stdout)


@contextmanager
def served(
    command: Literal["demo", "serve"],
    port: int,
    folder: Path,
    *,
    source: Path = HERE,
    room_b: int = 0,
) -> Iterator[Popen[bytes]]:
    """Serve the shop in ``folder``; with ``room_b`` none of its files may grow beyond as many
    bytes. Raises RuntimeError when the application does not come up."""

    def limited() -> None:
        import resource

        resource.setrlimit(resource.RLIMIT_FSIZE, (room_b, room_b))

    words = [sys.executable, "-m", "bottega", command, "--port", str(port), "--data", str(folder)]
    with Popen(
        words,
        stdout=DEVNULL,
        stderr=DEVNULL,
        env=environment(source),
        cwd=source,
        preexec_fn=limited if room_b else None,
    ) as server:
        try:
            wait_for(f"http://127.0.0.1:{port}")
            yield server
        finally:
            if server.poll() is None:
                server.terminate()


def wait_for(base: str) -> None:
    """Wait until the application answers. Raises RuntimeError when it does not come up."""
    pause = threading.Event()
    for _ in range(START_TRIES):
        try:
            if httpx2.get(f"{base}/shop", timeout=5, trust_env=False).status_code == 200:
                return
        except httpx2.TransportError:
            pause.wait(START_PAUSE_S)
    raise RuntimeError(f"The application did not come up at {base}.")
