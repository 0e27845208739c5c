"""The commands of `bottega library`. What they work with is imported when one is run."""

import json
import sys
from pathlib import Path
from typing import Annotated

import typer

from bottega.commands.terminal import AsJson, Seed, fail, need_benches

library_app = typer.Typer(help="Check and count the machine library.", no_args_is_help=True)
Folder = Annotated[Path | None, typer.Option(help="Library folder; the shipped one if not given.")]


@library_app.command("check")
def library_check(folder: Folder = None) -> None:
    """Report what is wrong with the library, with file and line; ends with 1 if anything is."""
    from bottega.core.library.consistency import check_library
    from bottega.core.library.errors import LibraryError
    from bottega.core.library.shelf import DATA, read_shelf
    from bottega.core.machine.audit import check_safety

    try:
        shelf = read_shelf(folder or DATA)
        problems = [*check_library(shelf), *check_safety(shelf)]
    except LibraryError as error:
        problems = error.problems
    for problem in problems:
        typer.echo(str(problem))
    if problems:
        fail(f"{len(problems)} problems.")
    typer.echo("The library is whole.")


@library_app.command("stats")
def library_stats(folder: Folder = None, as_json: AsJson = False) -> None:
    """Print counts in total and per archetype."""
    from bottega.core.library.consistency import stats
    from bottega.core.library.errors import LibraryError
    from bottega.core.library.shelf import read_shelf, shipped_shelf

    try:
        counts = stats(read_shelf(folder) if folder else shipped_shelf())
    except LibraryError as error:
        fail(str(error))
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
    from bottega.core.library.errors import LibraryError
    from bottega.core.library.kinds import excuses_of
    from bottega.core.library.shelf import UnknownMachine, read_shelf, shipped_shelf

    try:
        shelf = read_shelf(folder) if folder else shipped_shelf()
        machine = shelf.machine(archetype)
    except (LibraryError, UnknownMachine) as error:
        fail(str(error))
    for component, demand, reason in excuses_of(machine, shelf.tables.kinds):
        typer.echo(f"{machine.components[component].name}: {demand}. Not here: {reason}.")


@library_app.command("agree")
def library_agree_command(
    archetype: Annotated[
        list[str] | None, typer.Option(help="Only this kind; may be said again.")
    ] = None,
    check: Annotated[
        list[str] | None, typer.Option(help="Only this check; may be said again.")
    ] = None,
    fault: Annotated[
        list[str] | None, typer.Option(help="Only this fault; may be said again.")
    ] = None,
    specimens: Annotated[int, typer.Option(help="Machines drawn for each fault.", min=4)] = 12,
    worst: Annotated[int, typer.Option(help="How many of the worst pairs are shown.", min=0)] = 30,
    seed: Seed = 1,
    as_json: AsJson = False,
) -> None:
    """Hold the library's likelihoods against machines of physics, each fault with each check."""
    need_benches()
    from bottega.benchmark.agree import agree_rows, library_agree, tasks_of
    from bottega.benchmark.columns import columns
    from bottega.benchmark.policy import all_archetypes

    known = all_archetypes()
    chosen = archetype or list(known)
    for name in chosen:
        if name not in known:
            raise typer.BadParameter(f"found '{name}', expected one of {', '.join(known)}")
    only, faults = check or [], fault or []
    whole = len(list(tasks_of(chosen, seed, specimens, only, faults=faults)))
    if whole == 0:
        raise typer.BadParameter(f"found no fault of {', '.join(faults)} on {', '.join(chosen)}")
    with typer.progressbar(length=whole, label="faults", file=sys.stderr) as bar:
        found = library_agree(
            chosen, seed, specimens, only, done=lambda: bar.update(1), faults=faults
        )
    if as_json:
        typer.echo(found.model_dump_json(indent=1))
        return
    typer.echo(columns(*agree_rows(found, worst)))
    shares = (
        f"{found.share:.1%}; of {found.telling} that the fault changes {found.telling_share:.1%}"
    )
    typer.echo(f"{found.within} of {found.pairs} pairs agree, {shares}.")
    without, social = ", ".join(found.without_recipe) or "none", ", ".join(found.social)
    typer.echo(f"Without a recipe: {without}. Answered by people alone: {social}.")
