"""The commands of a shop: demo, serve, meter, diagnose, export, import, backup, restore, check,
token. What they work with is imported when one is run."""

import contextlib
import ipaddress
import logging
import os
import secrets
from collections.abc import Iterator
from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

from bottega.commands.terminal import AsJson, fail, read, write
from bottega.core.wording import sentence

if TYPE_CHECKING:
    from bottega.app.workshop import Workshop
    from bottega.store.backup import Checkup

shop_app = typer.Typer()

DEFAULT_DATA = Path("data-local")
Host = Annotated[str, typer.Option(help="Address to listen on: one of this computer's own.")]
Port = Annotated[int, typer.Option(help="Port to listen on.", min=0, max=65535)]
Data = Annotated[Path, typer.Option(help="Folder of the shop's data.")]
Force = Annotated[bool, typer.Option("--force", help="Write over what is there.")]
Named = Annotated[
    list[str] | None,
    typer.Option(
        help="Another name this computer is asked by, behind a proxy that signs people in."
    ),
]
SECRET_FILE = "session.key"
LEAST_SECRET = 32
"""Letters of the key that signs, at least, and bytes of a new one: 256 bits."""
GRACE_S = 2
"""How long open pages are waited for when the application ends, in seconds; chosen, a page takes a
tenth of it."""
MOST_CONNECTIONS = 600
"""Connections at once before others are sent away; chosen, below the thousand files most systems
let a process open."""
KEEP_ALIVE_S = 75
"""How long a browser's connection is kept while somebody reads or works with both hands, in
seconds; chosen, longer than most browsers keep one."""


@shop_app.command()
def demo(
    host: Host = "127.0.0.1",
    port: Port = 8017,
    data: Data = DEFAULT_DATA / "demo",
    host_name: Named = None,
) -> None:
    """Start with the demo shop; an empty data folder is filled first, a filled one is kept."""
    from bottega.app import demo as demo_shop
    from bottega.app.rig.bench_meter import start_bench_meter

    _own_address(host, port)
    with _held(data, "demo"):
        workshop = _open(data)
        filled = demo_shop.fill(workshop, _filling)
        typer.echo("The demo shop was set up." if filled else "The demo shop is as you left it.")
        start_bench_meter(workshop)
        _run(workshop, host, port, data, names=host_name or [])


@shop_app.command()
def serve(
    host: Host = "127.0.0.1",
    port: Port = 8017,
    data: Data = DEFAULT_DATA / "shop",
    host_name: Named = None,
    meters_anywhere: Annotated[
        bool,
        typer.Option(
            "--meters-anywhere", help="Open the lines of meters beyond private networks, too."
        ),
    ] = False,
) -> None:
    """Start with your own shop."""
    _own_address(host, port)
    with _held(data, "serve"):
        workshop = _open(data)
        workshop.links.anywhere = meters_anywhere
        _run(workshop, host, port, data, names=host_name or [])


@shop_app.command()
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
        fail(f"found '{trouble}', expected one of {', '.join(t for t in TROUBLES if t)}")
    try:
        source = rig_source(rig) if rig else fixed_source(fixed or [])
        stand_in = StandIn(Display(source, seed), host, port, trouble)
    except (SourceError, OSError) as error:
        fail(str(error))
    typer.echo(f"Its line is {stand_in.resource}")
    with contextlib.suppress(KeyboardInterrupt):
        stand_in.serve()


@shop_app.command()
def diagnose(
    job: Annotated[Path, typer.Argument(help="A job exported as JSON.")],
    as_json: AsJson = False,
) -> None:
    """Print ranking, next steps and reasons of an exported job."""
    from bottega.app.errors import AppError
    from bottega.app.job.diagnosis import as_text, diagnosis_of
    from bottega.app.job.file import import_job
    from bottega.app.workshop import open_workshop

    workshop = open_workshop(None)
    try:
        answer = import_job(workshop, read(job))
    except AppError as error:
        fail(str(error))
    diagnosis = diagnosis_of(answer, workshop.settings.prove_at)
    typer.echo(diagnosis.model_dump_json(indent=1) if as_json else as_text(diagnosis))
    workshop.close()


@shop_app.command("export")
def export_command(
    number: str,
    data: Data = DEFAULT_DATA / "shop",
    photos: Annotated[
        Path | None, typer.Option(help="Write it there with its photos, as a zip.")
    ] = None,
) -> None:
    """Print a job as JSON, or write it with its photos."""
    from bottega.app.errors import AppError
    from bottega.app.job.bundle import bundle
    from bottega.app.job.file import export_job

    workshop = _open(data)
    try:
        file = export_job(workshop, number)
        if photos is None:
            typer.echo(file.model_dump_json(indent=1))
        else:
            write(photos, bundle(workshop, file))
    except AppError as error:
        fail(str(error))
    finally:
        workshop.close()


@shop_app.command("import")
def import_command(job: Path, data: Data = DEFAULT_DATA / "shop") -> None:
    """Bring in a job exported as JSON, or with its photos."""
    from bottega.app.errors import AppError
    from bottega.app.job.file import import_job

    with _held(data, "import"):
        workshop = _open(data)
        try:
            typer.echo(f"Job {import_job(workshop, read(job)).number} is in.")
        except AppError as error:
            fail(str(error))
        finally:
            workshop.close()


@shop_app.command()
def backup(target: Path, data: Data = DEFAULT_DATA / "shop", force: Force = False) -> None:
    """Copy the shop's database to a new file while it is in use, and verify the copy; its photos go
    into a folder of that name beside it."""
    from bottega.store.backup import copy_shop
    from bottega.store.database import FILE, StoreError
    from bottega.store.photos import FOLDER, copy_photos

    try:
        copied = copy_shop(data / FILE, target, force)
        photos = copy_photos(data / FOLDER, target.with_name(f"{target.name}.{FOLDER}"))
    except StoreError as error:
        fail(sentence(error))
    typer.echo(f"Copied to {target}: {_counts(copied)}, {photos} photos beside it.")


@shop_app.command()
def restore(copy: Path, data: Data = DEFAULT_DATA / "shop", force: Force = False) -> None:
    """Put a copy back as the shop of a data folder. End the application first."""
    from bottega.store.backup import restore_shop
    from bottega.store.database import StoreError
    from bottega.store.photos import FOLDER, copy_photos

    with _held(data, "restore"):
        try:
            restored = restore_shop(copy, data, force)
            photos = copy_photos(copy.with_name(f"{copy.name}.{FOLDER}"), data / FOLDER)
        except StoreError as error:
            fail(sentence(error))
    typer.echo(f"Restored to {data}: {_counts(restored)}, {photos} photos.")


@shop_app.command()
def check(data: Data = DEFAULT_DATA / "shop") -> None:
    """Look whether the shop's database is sound; ends with 1 if it is not."""
    from bottega.store.backup import checked_shop
    from bottega.store.database import FILE, StoreError

    try:
        found = checked_shop(data / FILE)
    except StoreError as error:
        fail(sentence(error))
    for problem in found.problems:
        typer.echo(problem)
    if found.problems:
        fail(f"{len(found.problems)} problems in {_counts(found)}.")
    typer.echo(f"Sound: {_counts(found)}.")


@shop_app.command()
def token(member: str, data: Data = DEFAULT_DATA / "shop") -> None:
    """Print a token with which a program asks the API in the name of a member."""
    from bottega.app.errors import AppError
    from bottega.app.shop.tokens import token_for

    workshop = _open(data)
    try:
        typer.echo(token_for(workshop, _secret(data), member))
    except AppError as error:
        fail(str(error))
    finally:
        workshop.close()


def _own_address(host: str, port: int) -> None:
    """Refuse to listen beyond this computer: whoever reaches the address could work in anybody's
    name."""
    try:
        own = ipaddress.ip_address(host).is_loopback
    except ValueError:
        own = host == "localhost"
    if not own:
        fail(
            f"Found the address {host}, expected 127.0.0.1, ::1 or localhost: members cannot "
            "sign in "
            f"yet, so Bottega answers this computer only. To reach it from another one, open "
            "a tunnel "
            f"there: ssh -L {port}:127.0.0.1:{port} NAME-OF-THIS-COMPUTER"
        )


@contextlib.contextmanager
def _held(data: Path, what: str) -> Iterator[None]:
    """Hold a data folder while a command writes in it, or say who does and end."""
    from datetime import datetime

    from bottega.store.database import StoreError
    from bottega.store.hold import Hold

    try:
        hold = Hold(data, what, datetime.now().astimezone())
    except StoreError as error:
        fail(sentence(error))
    try:
        yield
    finally:
        hold.let_go()


def _open(data: Path) -> "Workshop":
    from bottega.app.workshop import open_workshop
    from bottega.core.library.errors import LibraryError
    from bottega.store.database import StoreError

    try:
        workshop = open_workshop(data)
    except (StoreError, LibraryError) as error:
        fail(sentence(error))
    for sheet, found in workshop.quarantine.items():
        typer.echo(
            f"The sheet {sheet}, revision {found.seq}, does not load: {found.problems[0]}", err=True
        )
    return workshop


def _run(workshop: "Workshop", host: str, port: int, data: Path, *, names: list[str]) -> None:
    import uvicorn

    from bottega.app.job.summary import refresh_stale
    from bottega.app.workshop import ready_to_serve
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
        limit_concurrency=MOST_CONNECTIONS,
    )


def _filling(done: int, whole: int) -> None:
    typer.echo(f"Setting up the demo shop: job {done} of {whole}")


def _progress(done: int, whole: int) -> None:
    if done == whole or done % 100 == 0:
        typer.echo(f"Working out the bench: {done} of {whole} jobs")


def _secret(data: Path) -> str:
    """Return the key that signs cookies and tokens, made once per data folder and readable by its
    owner only."""
    from bottega.store.database import OWNER_ONLY

    file = data / SECRET_FILE
    try:
        made = os.open(file, os.O_CREAT | os.O_EXCL | os.O_WRONLY, OWNER_ONLY)
    except FileExistsError:
        return _kept_secret(file)
    with os.fdopen(made, "w", encoding="ascii") as new:
        new.write(secrets.token_urlsafe(LEAST_SECRET))
    return _kept_secret(file)


def _kept_secret(file: Path) -> str:
    """Return the key as it is kept, or say that it is none and end."""
    secret = read(file).decode("ascii", "replace").strip()
    if len(secret) < LEAST_SECRET or not secret.isprintable() or "\ufffd" in secret:
        fail(
            f"Found no key in '{file}', expected at least {LEAST_SECRET} letters. Take the file "
            "away: a new one is made, and everybody chooses anew who works where."
        )
    return secret


def _counts(found: "Checkup") -> str:
    return f"{found.jobs} jobs, {found.events} events"
