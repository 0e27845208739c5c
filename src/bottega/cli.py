"""The command line: the commands of a shop; panel, library, rig and bench beside."""

import typer

from bottega.commands.bench import bench_app
from bottega.commands.library import library_app
from bottega.commands.panel import panel_app
from bottega.commands.rig import rig_app
from bottega.commands.shop import shop_app

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
