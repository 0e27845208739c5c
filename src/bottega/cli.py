"""The command line: the commands of a shop; panel, library, rig and bench beside."""

import sys

import typer

from bottega.commands.bench import bench_app
from bottega.commands.library import library_app
from bottega.commands.panel import panel_app
from bottega.commands.rig import rig_app
from bottega.commands.shop import shop_app
from bottega.core.wording import sentence

app = typer.Typer(
    help="Bottega, the workbench application of a washer technician.",
    no_args_is_help=True,
    pretty_exceptions_enable=False,
)
app.add_typer(shop_app)
app.add_typer(library_app, name="library")
app.add_typer(bench_app, name="bench")
app.add_typer(panel_app, name="panel")
app.add_typer(rig_app, name="rig")


def main() -> None:
    """Run the command line. What no command expected of disk and database is said in a sentence,
    and ends with 1."""
    from sqlalchemy.exc import SQLAlchemyError

    from bottega.store.database import StoreError

    try:
        app()
    except (OSError, StoreError, SQLAlchemyError) as error:
        typer.echo(sentence(error).split("\n")[0], err=True)
        sys.exit(1)
