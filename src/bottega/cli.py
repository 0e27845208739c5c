"""The command line: demo, serve, diagnose, export, import, backup."""

import json
import secrets
import sys
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Annotated, NoReturn

import typer
import uvicorn

from bottega.app import demo as demo_shop
from bottega.app.answering import as_text, diagnosis_of
from bottega.app.benching import as_table as bench_table
from bottega.app.benching import bench_diagnosis, table
from bottega.app.diagnosing import diagnose as diagnose_job
from bottega.app.errors import AppError
from bottega.app.exchange import export_job, import_job
from bottega.app.workshop import Workshop, open_workshop, settle
from bottega.core.library.consistency import check_library, stats
from bottega.core.library.errors import LibraryError
from bottega.core.library.shelf import DATA, read_shelf
from bottega.store.database import StoreError
from bottega.web.application import create_app
from bottega.web.load import bench_web, web_rows

app = typer.Typer(
    help="Bottega, the workbench application of a washer technician.",
    no_args_is_help=True,
    pretty_exceptions_enable=False,
)

library_app = typer.Typer(help="Check and count the machine library.", no_args_is_help=True)
app.add_typer(library_app, name="library")
bench_app = typer.Typer(help="Measure speed, memory and the worth of the plans.", no_args_is_help=True)
app.add_typer(bench_app, name="bench")

DEFAULT_DATA = Path("data-local")
Host = Annotated[str, typer.Option(help="Address to listen on. Loopback unless told otherwise.")]
Port = Annotated[int, typer.Option(help="Port to listen on.", min=0, max=65535)]
Data = Annotated[Path, typer.Option(help="Folder of the shop's data.")]
AsJson = Annotated[bool, typer.Option("--json", help="Print JSON.")]
Seed = Annotated[int, typer.Option(help="Everything drawn at random follows from it.")]
SECRET_FILE = "session.key"
GRACE_S = 2
"""How long open pages are waited for when the application ends."""


@app.command()
def demo(host: Host = "127.0.0.1", port: Port = 8017, data: Data = DEFAULT_DATA / "demo") -> None:
    """Start with the demo shop; an empty data folder is filled first, a filled one is kept."""
    workshop = _open(data)
    filled = demo_shop.fill(workshop)
    typer.echo("The demo shop was set up." if filled else "The demo shop is as you left it.")
    _run(workshop, host, port, data)


@app.command()
def serve(host: Host = "127.0.0.1", port: Port = 8017, data: Data = DEFAULT_DATA / "shop") -> None:
    """Start with your own shop."""
    _run(_open(data), host, port, data)


@app.command()
def diagnose(
    job: Annotated[Path, typer.Argument(help="A job exported as JSON.")],
    as_json: AsJson = False,
) -> None:
    """Print ranking, next steps and reasons of an exported job."""
    workshop = open_workshop(None)
    try:
        answer = import_job(workshop, _read(job))
    except AppError as error:
        _fail(str(error))
    diagnosis = diagnosis_of(answer)
    typer.echo(diagnosis.model_dump_json(indent=1) if as_json else as_text(diagnosis))
    workshop.close()


@app.command("export")
def export_command(number: str, data: Data = DEFAULT_DATA / "shop") -> None:
    """Print a job as JSON."""
    workshop = _open(data)
    try:
        typer.echo(export_job(workshop, number).model_dump_json(indent=1))
    except AppError as error:
        _fail(str(error))
    finally:
        workshop.close()


@app.command("import")
def import_command(job: Path, data: Data = DEFAULT_DATA / "shop") -> None:
    """Bring in a job exported as JSON."""
    workshop = _open(data)
    try:
        typer.echo(f"Job {import_job(workshop, _read(job)).number} is in.")
    except AppError as error:
        _fail(str(error))
    finally:
        workshop.close()


@app.command()
def backup(target: Path, data: Data = DEFAULT_DATA / "shop") -> None:
    """Copy the shop's database while it is in use."""
    workshop = _open(data)
    workshop.database.backup(target)
    workshop.close()
    typer.echo(f"Copied to {target}.")


Folder = Annotated[Path | None, typer.Option(help="Library folder; the shipped one if not given.")]


@library_app.command("check")
def library_check(folder: Folder = None) -> None:
    """Report what is wrong with the library, with file and line; ends with 1 if anything is."""
    try:
        problems = check_library(read_shelf(folder or DATA))
    except LibraryError as error:
        problems = error.problems
    for problem in problems:
        typer.echo(str(problem))
    if problems:
        _fail(f"{len(problems)} problems.")
    typer.echo("The library is whole.")


@library_app.command("stats")
def library_stats(folder: Folder = None, as_json: AsJson = False) -> None:
    """Print counts in total and per archetype."""
    try:
        counts = stats(read_shelf(folder or DATA))
    except LibraryError as error:
        _fail(str(error))
    if as_json:
        typer.echo(json.dumps(counts, indent=1))
        return
    kinds = list(counts["total"])
    typer.echo(" " * 7 + " ".join(f"{kind[:12]:>12}" for kind in kinds))
    for name, row in counts.items():
        typer.echo(f"{name:<7}" + " ".join(f"{row[kind]:>12}" for kind in kinds))


@bench_app.command("diagnosis")
def bench_diagnosis_command(
    as_json: AsJson = False,
    seed: Seed = 1,
    jobs: Annotated[int, typer.Option(help="Made-up jobs an archetype.", min=1)] = 12,
    puzzles: Annotated[int, typer.Option(help="Small models of each kind, priced exactly.", min=1)] = 40,
) -> None:
    """Time the full answer, weigh the memory, and hold the plans against the exact optimum."""
    bench = bench_diagnosis(seed, jobs, puzzles, lambda line: typer.echo(line, err=True))
    typer.echo(bench.model_dump_json(indent=1) if as_json else bench_table(bench))


@bench_app.command("web")
def bench_web_command(
    as_json: AsJson = False,
    seed: Seed = 1,
    people: Annotated[int, typer.Option(help="How many work at once.", min=1)] = 50,
    seconds: Annotated[float, typer.Option(help="For how long.", min=1)] = 60,
    port: Port = 8071,
) -> None:
    """Start the application with a demo shop of its own, and time its pages for one person and for many."""
    with TemporaryDirectory() as folder:
        command = [sys.executable, "-m", "bottega", "demo", "--port", str(port), "--data", folder]
        bench = bench_web(command, port, seed, people, seconds, lambda line: typer.echo(line, err=True))
    typer.echo(bench.model_dump_json(indent=1) if as_json else table(*web_rows(bench)))


def _open(data: Path) -> Workshop:
    try:
        return open_workshop(data)
    except (StoreError, LibraryError) as error:
        _fail(str(error))


def _run(workshop: Workshop, host: str, port: int, data: Path) -> None:
    typer.echo(f"Bottega is at http://{host}:{port}/  (end it with Ctrl+C)")
    application = create_app(workshop, _secret(data))
    for number in workshop.log.numbers()[:1]:
        diagnose_job(workshop, number)
    settle()
    uvicorn.run(
        application, host=host, port=port, log_level="warning", server_header=False, timeout_graceful_shutdown=GRACE_S
    )


def _secret(data: Path) -> str:
    """Return the key that signs session cookies, made once per data folder and readable by its owner only."""
    file = data / SECRET_FILE
    if not file.exists():
        file.touch(mode=0o600)
        file.write_text(secrets.token_urlsafe(32), encoding="ascii")
    return file.read_text(encoding="ascii")


def _read(path: Path) -> bytes:
    try:
        return path.read_bytes()
    except OSError as error:
        _fail(f"Cannot read '{path}': {error.strerror}.")


def _fail(message: str) -> NoReturn:
    typer.echo(message, err=True)
    raise typer.Exit(1)
