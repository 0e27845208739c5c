"""The command line: demo, serve, diagnose, export, import, backup, restore, check, token; library
and bench beside."""

import contextlib
import ipaddress
import json
import logging
import os
import secrets
from pathlib import Path
from typing import Annotated, NoReturn

import typer

from bottega.app import demo as demo_shop
from bottega.app.errors import AppError
from bottega.app.job.bundle import bundle
from bottega.app.job.diagnosis import as_text, diagnosis_of
from bottega.app.job.file import export_job, import_job
from bottega.app.job.summary import refresh_stale
from bottega.app.panel.heard import heard_lines, sheet_machine, written_heard
from bottega.app.panel.record import hear_record
from bottega.app.rig.bench_meter import start_bench_meter
from bottega.app.shop.tokens import token_for
from bottega.app.workshop import Workshop, open_workshop, ready_to_serve
from bottega.benchmark.cli import bench_app
from bottega.core.library.consistency import check_library, stats
from bottega.core.library.errors import LibraryError
from bottega.core.library.kinds import excuses_of
from bottega.core.library.shelf import DATA, UnknownMachine, read_shelf, shipped_shelf
from bottega.rig_commands import library_agree_command, rig_app
from bottega.store.backup import Checkup, checked_shop, copy_shop, restore_shop
from bottega.store.database import FILE, OWNER_ONLY, StoreError
from bottega.store.photos import FOLDER, copy_photos

app = typer.Typer(
    help="Bottega, the workbench application of a washer technician.",
    no_args_is_help=True,
    pretty_exceptions_enable=False,
)
library_app = typer.Typer(help="Check and count the machine library.", no_args_is_help=True)
app.add_typer(library_app, name="library")
app.add_typer(bench_app, name="bench")
panel_app = typer.Typer(help="Read what a panel shows, without a job.", no_args_is_help=True)
app.add_typer(panel_app, name="panel")
app.add_typer(rig_app, name="rig")
library_app.command("agree")(library_agree_command)

DEFAULT_DATA = Path("data-local")
Host = Annotated[str, typer.Option(help="Address to listen on: one of this computer's own.")]
Port = Annotated[int, typer.Option(help="Port to listen on.", min=0, max=65535)]
Data = Annotated[Path, typer.Option(help="Folder of the shop's data.")]
AsJson = Annotated[bool, typer.Option("--json", help="Print JSON.")]
Force = Annotated[bool, typer.Option("--force", help="Write over what is there.")]
Named = Annotated[
    list[str] | None,
    typer.Option(
        help="Another name this computer is asked by, behind a proxy that signs people in."
    ),
]
SECRET_FILE = "session.key"
GRACE_S = 2
"""How long open pages are waited for when the application ends, in seconds; chosen, a page takes a
tenth of it."""
KEEP_ALIVE_S = 75
"""How long a browser's connection is kept while somebody reads or works with both hands, in
seconds; chosen, longer than most browsers keep one."""


@app.command()
def demo(
    host: Host = "127.0.0.1",
    port: Port = 8017,
    data: Data = DEFAULT_DATA / "demo",
    host_name: Named = None,
) -> None:
    """Start with the demo shop; an empty data folder is filled first, a filled one is kept."""
    _own_address(host, port)
    workshop = _open(data)
    filled = demo_shop.fill(workshop, _filling)
    typer.echo("The demo shop was set up." if filled else "The demo shop is as you left it.")
    start_bench_meter(workshop)
    _run(workshop, host, port, data, host_name or [])


@app.command()
def serve(
    host: Host = "127.0.0.1",
    port: Port = 8017,
    data: Data = DEFAULT_DATA / "shop",
    host_name: Named = None,
) -> None:
    """Start with your own shop."""
    _own_address(host, port)
    _run(_open(data), host, port, data, host_name or [])


@app.command()
def meter(
    rig: Annotated[
        str, typer.Option(help="The address of a machine on the rig, as its page has it.")
    ] = "",
    fixed: Annotated[
        list[str] | None,
        typer.Option(help="What its probes touch, as resistance=184; may be said again."),
    ] = None,
    host: Host = "127.0.0.1",
    port: Annotated[int, typer.Option(help="Where it listens.", min=0, max=65535)] = 5025,
    trouble: Annotated[
        str, typer.Option(help="What ails it: slow, garbage, drop or function.")
    ] = "",
    seed: Annotated[int, typer.Option(help="Its error and its trembling follow from it.")] = 1,
) -> None:
    """Stand in for a meter: answers SCPI on a socket, settles, and is off by its accuracy."""
    from bottega.devices.sources import SourceError, fixed_source, rig_source
    from bottega.devices.standin import TROUBLES, Display, StandIn

    if trouble not in TROUBLES:
        _fail(f"found '{trouble}', expected one of {', '.join(t for t in TROUBLES if t)}")
    try:
        source = rig_source(rig) if rig else fixed_source(fixed or [])
        stand_in = StandIn(Display(source, seed), host, port, trouble)
    except (SourceError, OSError) as error:
        _fail(str(error))
    typer.echo(f"Its line is {stand_in.resource}")
    with contextlib.suppress(KeyboardInterrupt):
        stand_in.serve()


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
def export_command(
    number: str,
    data: Data = DEFAULT_DATA / "shop",
    photos: Annotated[
        Path | None, typer.Option(help="Write it there with its photos, as a zip.")
    ] = None,
) -> None:
    """Print a job as JSON, or write it with its photos."""
    workshop = _open(data)
    try:
        file = export_job(workshop, number)
        if photos is None:
            typer.echo(file.model_dump_json(indent=1))
        else:
            _write(photos, bundle(workshop, file))
    except AppError as error:
        _fail(str(error))
    finally:
        workshop.close()


@app.command("import")
def import_command(job: Path, data: Data = DEFAULT_DATA / "shop") -> None:
    """Bring in a job exported as JSON, or with its photos."""
    workshop = _open(data)
    try:
        typer.echo(f"Job {import_job(workshop, _read(job)).number} is in.")
    except AppError as error:
        _fail(str(error))
    finally:
        workshop.close()


@app.command()
def backup(target: Path, data: Data = DEFAULT_DATA / "shop", force: Force = False) -> None:
    """Copy the shop's database to a new file while it is in use, and verify the copy; its photos go
    into a folder of that name beside it."""
    try:
        copied = copy_shop(data / FILE, target, force)
        photos = copy_photos(data / FOLDER, target.with_name(f"{target.name}.{FOLDER}"))
    except StoreError as error:
        _fail(_sentence(error))
    typer.echo(f"Copied to {target}: {_counts(copied)}, {photos} photos beside it.")


@app.command()
def restore(copy: Path, data: Data = DEFAULT_DATA / "shop", force: Force = False) -> None:
    """Put a copy back as the shop of a data folder. End the application first."""
    try:
        restored = restore_shop(copy, data, force)
        photos = copy_photos(copy.with_name(f"{copy.name}.{FOLDER}"), data / FOLDER)
    except StoreError as error:
        _fail(_sentence(error))
    typer.echo(f"Restored to {data}: {_counts(restored)}, {photos} photos.")


@app.command()
def check(data: Data = DEFAULT_DATA / "shop") -> None:
    """Look whether the shop's database is sound; ends with 1 if it is not."""
    try:
        found = checked_shop(data / FILE)
    except StoreError as error:
        _fail(_sentence(error))
    for problem in found.problems:
        typer.echo(problem)
    if found.problems:
        _fail(f"{len(found.problems)} problems in {_counts(found)}.")
    typer.echo(f"Sound: {_counts(found)}.")


@app.command()
def token(member: str, data: Data = DEFAULT_DATA / "shop") -> None:
    """Print a token with which a program asks the API in the name of a member."""
    workshop = _open(data)
    try:
        typer.echo(token_for(workshop, _secret(data), member))
    except AppError as error:
        _fail(str(error))
    finally:
        workshop.close()


Folder = Annotated[Path | None, typer.Option(help="Library folder; the shipped one if not given.")]


@panel_app.command("decode")
def panel_decode(
    sheet: Annotated[str, typer.Option(help="The sheet of the model.")],
    flashes: Annotated[
        str, typer.Option(help="Counts or tones, rounds parted by commas: 2-1,2-1,2-2 or hllhl.")
    ] = "",
    lamps: Annotated[
        str, typer.Option(help="Each lamp, the sum of each page, or a bar: o-*.--o, 4.17 or low-4.")
    ] = "",
    display: Annotated[str, typer.Option(help="The characters shown.")] = "",
    record: Annotated[
        Path | None, typer.Option("--csv", help="A lamp's record: time, lamp, on.")
    ] = None,
) -> None:
    """Print every code it may be with its chance, the likeliest first."""
    workshop = open_workshop(None)
    slips = workshop.shelf.tables.panel
    try:
        machine = sheet_machine(workshop, sheet)
        if record is not None:
            lines = heard_lines(hear_record(machine, _read(record).decode("utf-8-sig"), slips))
        elif flashes or lamps or display:
            lines = heard_lines(written_heard(machine, flashes or lamps or display, slips))
        else:
            _fail("Found nothing to decode, expected --flashes, --lamps, --display or --csv.")
    except UnicodeDecodeError:
        _fail("Found no text in the record, expected CSV in UTF-8.")
    except AppError as error:
        _fail(str(error))
    for line in lines:
        typer.echo(line)
    workshop.close()


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
        counts = stats(read_shelf(folder) if folder else shipped_shelf())
    except LibraryError as error:
        _fail(str(error))
    if as_json:
        typer.echo(json.dumps(counts, indent=1))
        return
    kinds = list(counts["total"])
    typer.echo(" " * 7 + " ".join(f"{kind[:12]:>12}" for kind in kinds))
    for name, row in counts.items():
        typer.echo(f"{name:<7}" + " ".join(f"{row[kind]:>12}" for kind in kinds))


@library_app.command("excuses")
def library_excuses(archetype: str, folder: Folder = None) -> None:
    """Print what a component's kind demands and this machine need not answer, with the reason."""
    try:
        shelf = read_shelf(folder) if folder else shipped_shelf()
        machine = shelf.machine(archetype)
    except (LibraryError, UnknownMachine) as error:
        _fail(str(error))
    for component, demand, reason in excuses_of(machine, shelf.tables.kinds):
        typer.echo(f"{machine.components[component].name}: {demand}. Not here: {reason}.")


def _own_address(host: str, port: int) -> None:
    """Refuse to listen beyond this computer: whoever reaches the address could work in anybody's
    name."""
    try:
        own = ipaddress.ip_address(host).is_loopback
    except ValueError:
        own = host == "localhost"
    if not own:
        _fail(
            f"Found the address {host}, expected 127.0.0.1, ::1 or localhost: members cannot "
            "sign in "
            f"yet, so Bottega answers this computer only. To reach it from another one, open "
            "a tunnel "
            f"there: ssh -L {port}:127.0.0.1:{port} NAME-OF-THIS-COMPUTER"
        )


def _open(data: Path) -> Workshop:
    try:
        workshop = open_workshop(data)
    except (StoreError, LibraryError) as error:
        _fail(_sentence(error))
    for sheet, found in workshop.quarantine.items():
        typer.echo(
            f"The sheet {sheet}, revision {found.seq}, does not load: {found.problems[0]}", err=True
        )
    return workshop


def _run(workshop: Workshop, host: str, port: int, data: Path, names: list[str]) -> None:
    """Serve; what only a server wants is imported here, so that no other command carries it."""
    import uvicorn

    from bottega.web.application import LOOPBACK, create_app

    logging.basicConfig(
        level=logging.INFO, format="%(asctime)s %(levelname)s %(name)s: %(message)s"
    )
    logging.getLogger("alembic").setLevel(logging.WARNING)
    refresh_stale(workshop, _progress)
    application = create_app(workshop, _secret(data), [*LOOPBACK, *names])
    ready_to_serve()
    typer.echo(f"Bottega is at http://{host}:{port}/  (end it with Ctrl+C)")
    uvicorn.run(
        application,
        host=host,
        port=port,
        log_level="warning",
        server_header=False,
        timeout_graceful_shutdown=GRACE_S,
        timeout_keep_alive=KEEP_ALIVE_S,
    )


def _filling(done: int, whole: int) -> None:
    typer.echo(f"Setting up the demo shop: job {done} of {whole}")


def _progress(done: int, whole: int) -> None:
    if done == whole or done % 100 == 0:
        typer.echo(f"Working out the bench: {done} of {whole} jobs")


def _secret(data: Path) -> str:
    """Return the key that signs cookies and tokens, made once per data folder and readable by its
    owner only."""
    file = data / SECRET_FILE
    try:
        made = os.open(file, os.O_CREAT | os.O_EXCL | os.O_WRONLY, OWNER_ONLY)
    except FileExistsError:
        return file.read_text(encoding="ascii")
    with os.fdopen(made, "w", encoding="ascii") as new:
        new.write(secrets.token_urlsafe(32))
    return file.read_text(encoding="ascii")


def _counts(found: Checkup) -> str:
    return f"{found.jobs} jobs, {found.events} events"


def _read(path: Path) -> bytes:
    try:
        return path.read_bytes()
    except OSError as error:
        _fail(f"Cannot read '{path}': {error.strerror}.")


def _write(path: Path, raw: bytes) -> None:
    try:
        path.write_bytes(raw)
    except OSError as error:
        _fail(f"Cannot write '{path}': {error.strerror}.")


def _sentence(error: Exception) -> str:
    text = str(error)
    return f"{text[:1].upper()}{text[1:]}."


def _fail(message: str) -> NoReturn:
    typer.echo(message, err=True)
    raise typer.Exit(1)
