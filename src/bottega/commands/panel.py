"""The commands of `bottega panel`. What they work with is imported when one is run."""

from pathlib import Path
from typing import Annotated

import typer

from bottega.commands.terminal import fail, read

panel_app = typer.Typer(help="Read what a panel shows, without a job.", no_args_is_help=True)


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
    from bottega.app.errors import AppError
    from bottega.app.panel.heard import heard_lines, sheet_machine, written_heard
    from bottega.app.panel.record import hear_record
    from bottega.app.workshop import open_workshop

    workshop = open_workshop(None)
    slips = workshop.shelf.tables.panel
    try:
        machine = sheet_machine(workshop, sheet)
        if record is not None:
            lines = heard_lines(hear_record(machine, read(record).decode("utf-8-sig"), slips))
        elif flashes or lamps or display:
            lines = heard_lines(written_heard(machine, flashes or lamps or display, slips))
        else:
            fail("Found nothing to decode, expected --flashes, --lamps, --display or --csv.")
    except UnicodeDecodeError:
        fail("Found no text in the record, expected CSV in UTF-8.")
    except AppError as error:
        fail(str(error))
    for line in lines:
        typer.echo(line)
    workshop.close()
