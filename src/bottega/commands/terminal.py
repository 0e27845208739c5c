"""What the commands share: their usual options, how they fail, files they read and write."""

from importlib.util import find_spec
from pathlib import Path
from typing import Annotated, NoReturn

import typer

AsJson = Annotated[bool, typer.Option("--json", help="Print JSON.")]
Seed = Annotated[int, typer.Option(help="Everything drawn at random follows from it.")]


def fail(message: str) -> NoReturn:
    """Say why on the error output and end with 1."""
    typer.echo(message, err=True)
    raise typer.Exit(1)


def read(path: Path) -> bytes:
    """Return a file's bytes, or fail."""
    try:
        return path.read_bytes()
    except OSError as error:
        fail(f"Cannot read '{path}': {error.strerror}.")


def write(path: Path, raw: bytes) -> None:
    """Write a file, or fail."""
    try:
        path.write_bytes(raw)
    except OSError as error:
        fail(f"Cannot write '{path}': {error.strerror}.")


def need_benches() -> None:
    """End where the benches are not part of this installation."""
    if find_spec("bottega.benchmark") is None:
        fail(
            "Found no benches in this installation, expected a checkout of the sources: run "
            "`make test` there once, then `.venv/bin/bottega`."
        )
