"""The commands of `bottega rig`. What they work with is imported when one is run."""

from pathlib import Path
from typing import TYPE_CHECKING, Annotated

import typer

from bottega.commands.terminal import Seed, fail

if TYPE_CHECKING:
    from bottega.core.library.machine_type import MachineType

rig_app = typer.Typer(help="Run a machine made of physics.", no_args_is_help=True)


@rig_app.command("list")
def rig_list(
    sheet: Annotated[
        str, typer.Option(help="Say what this sheet's machine can run and have.")
    ] = "",
) -> None:
    """Print the sheets; of one, its programmes, its service steps, and the faults it can have."""
    from bottega.core.library.shelf import shipped_shelf
    from bottega.rig.faults import injectable
    from bottega.rig.programmes import programmes_of, steps_of

    shelf = shipped_shelf()
    if not sheet:
        for name in sorted(shelf.sheets):
            typer.echo(f"{name:<24}{shelf.sheet(name).title}")
        return
    machine = _machine(sheet)
    for name, words in programmes_of(machine).items():
        typer.echo(f"programme {name:<20}{words}")
    for name in steps_of(machine):
        typer.echo(f"step      {name}")
    for name in injectable(machine.faults):
        typer.echo(
            f"fault     {name:<28}{machine.component_of(name).name}: {machine.faults[name].name}"
        )


@rig_app.command("run")
def rig_run(
    sheet: Annotated[str, typer.Option(help="The sheet of the model.")],
    fault: Annotated[
        list[str] | None,
        typer.Option(help="A fault, or fault:severity from 0 to 1; may be said again."),
    ] = None,
    programme: Annotated[str, typer.Option(help="Programme or service step.")] = "short",
    seconds: Annotated[float, typer.Option(help="Of its time at most; 0 for to its end.")] = 0,
    seed: Seed = 1,
    csv: Annotated[Path | None, typer.Option(help="Write what was recorded.")] = None,
    wav: Annotated[
        Path | None, typer.Option(help="Write the sound of its spin, or of what it stopped in.")
    ] = None,
    plot: Annotated[
        Path | None, typer.Option(help="Draw what was recorded, as .png or .svg.")
    ] = None,
) -> None:
    """Run a machine of a sheet, with faults, and say how it went."""
    from bottega.commands.plots import NoSuchPlot, plot_run
    from bottega.rig.faults import FaultError
    from bottega.rig.machine import machine_of
    from bottega.rig.programmes import NoSuchProgramme
    from bottega.rig.quantities import shown
    from bottega.rig.sound import sound_of
    from bottega.rig.sound import wav as as_wav
    from bottega.rig.telemetry import Sample, sample, write_csv

    if seconds < 0:
        fail(f"found {seconds:g} seconds, expected none or more")
    samples: list[Sample] = []
    try:
        machine = machine_of(
            _machine(sheet), str(seed), dict(_severity(text) for text in fault or [])
        )
        machine.telemetry = lambda m: samples.append(sample(m)) if m.now.seconds % 1 == 0 else None
        machine.run(programme, most_s=seconds or 30_000)
        if csv is not None:
            with csv.open("w", newline="") as file:
                write_csv(samples, file)
        if wav is not None:
            of = machine.board.stopped if machine.board.stopped in ("drain", "wash") else "spin"
            wav.write_bytes(as_wav(sound_of(machine, of)))
        if plot is not None:
            plot_run(samples, plot, f"{sheet}, {programme}")
    except (FaultError, NoSuchProgramme, NoSuchPlot) as error:
        fail(str(error))
    except OSError as error:
        fail(f"{error.filename}: {error.strerror}; nothing more was written")
    ended = _ended(machine.board.stopped, machine.board.done)
    typer.echo(f"{machine.now.seconds / 60:.1f} minutes; {ended}")
    typer.echo(f"stored: {', '.join(machine.board.codes) or 'nothing'}")
    for name, value in sorted(shown(machine).items()):
        typer.echo(f"{name:<24}{value:.4g}")


@rig_app.command("serve")
def rig_serve(
    port: Annotated[int, typer.Option(help="Port to listen on.", min=0, max=65535)] = 8073,
    data: Annotated[
        Path | None, typer.Option(help="Folder of the shop's data; none keeps nothing.")
    ] = None,
) -> None:
    """Start the application at its machines of physics."""
    import uvicorn

    from bottega.app.workshop import open_workshop
    from bottega.web.application import create_app

    workshop = open_workshop(data)
    typer.echo(f"Machines on the rig: http://127.0.0.1:{port}/rigs")
    try:
        uvicorn.run(create_app(workshop), host="127.0.0.1", port=port, log_level="warning")
    finally:
        workshop.close()


def _machine(sheet: str) -> "MachineType":
    from bottega.core.library.shelf import shipped_shelf

    shelf = shipped_shelf()
    if sheet in shelf.archetypes:
        return shelf.machine(sheet)
    if sheet not in shelf.sheets:
        known = ", ".join(sorted(shelf.sheets))
        fail(f"found the sheet '{sheet}', expected one of {known}")
    return shelf.machine(shelf.sheet(sheet).archetype, sheet)


def _severity(text: str) -> tuple[str, float]:
    name, _, severity = text.partition(":")
    try:
        return name, float(severity or 0.5)
    except ValueError:
        fail(f"found the severity '{severity}' of {name}, expected a number from 0 to 1")


def _ended(stopped: str | None, done: bool) -> str:
    if stopped is not None:
        return f"it stopped in {stopped}"
    return "it came to its end" if done else "it still runs"
