"""The commands of `bottega bench`. What they measure with is imported when one is run, not when
Bottega starts."""

import sys
from collections.abc import Callable
from contextvars import ContextVar
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import TYPE_CHECKING, Annotated

import typer

from bottega.commands.terminal import AsJson, Seed, need_benches

if TYPE_CHECKING:
    from pydantic import BaseModel

bench_app = typer.Typer(
    help="Measure speed, memory and the worth of the plans.",
    no_args_is_help=True,
)
_fenced: ContextVar[bool] = ContextVar("fenced", default=False)


@bench_app.callback()
def begin(
    markdown: Annotated[
        bool, typer.Option("--markdown", help="Print tables as they stand in docs/bench.md.")
    ] = False,
) -> None:
    """Measure speed, memory and the worth of the plans."""
    need_benches()
    _fenced.set(markdown)


def _print(bench: "BaseModel", as_json: bool, table: Callable[[], str]) -> None:
    """Print what a bench found, as JSON or as its table."""
    if as_json:
        typer.echo(bench.model_dump_json(indent=1))
    else:
        typer.echo(f"```\n{table()}\n```" if _fenced.get() else table())


def _say(line: str) -> None:
    typer.echo(line, err=True)


@bench_app.command("diagnosis")
def bench_diagnosis_command(
    as_json: AsJson = False,
    seed: Seed = 1,
    jobs: Annotated[int, typer.Option(help="Made-up jobs an archetype.", min=1)] = 12,
    puzzles: Annotated[
        int, typer.Option(help="Small models of each kind, priced exactly.", min=1)
    ] = 40,
    against: Annotated[
        Path | None, typer.Option(help="Another checkout, measured in turn with this one.")
    ] = None,
    rounds: Annotated[int, typer.Option(help="How often each is measured.", min=1)] = 3,
) -> None:
    """Time the full answer, weigh the memory, and hold the plans against the exact optimum; or hold
    time and memory against another checkout."""
    from bottega.benchmark import against as other
    from bottega.benchmark.diagnosis import as_table, bench_diagnosis
    from bottega.benchmark.served import NotBottega

    if against is not None:
        try:
            both = other.bench_against(against, seed, jobs, rounds, say=_say)
        except NotBottega as error:
            raise typer.BadParameter(str(error)) from error
        _print(both, as_json, lambda: other.as_table(both))
        return

    bench = bench_diagnosis(seed, jobs, puzzles, _say)
    _print(bench, as_json, lambda: as_table(bench))


@bench_app.command("same")
def bench_same_command(
    against: Annotated[Path, typer.Option(help="The other checkout.")],
    as_json: AsJson = False,
    seed: Seed = 1,
    jobs: Annotated[int, typer.Option(help="Random jobs a kind.", min=1)] = 60,
    machines: Annotated[int, typer.Option(help="Machines of the fleet.", min=1)] = 40,
    port: int = 8074,
) -> None:
    """Hold the demo's pages, the answers of random jobs and a fleet against those of another
    checkout."""
    from bottega.benchmark.diagnosis import table
    from bottega.benchmark.same import bench_same, same_rows
    from bottega.benchmark.served import NotBottega

    with TemporaryDirectory() as folder:
        try:
            bench = bench_same(
                against, Path(folder), port, seed, jobs=jobs, machines=machines, say=_say
            )
        except NotBottega as error:
            raise typer.BadParameter(str(error)) from error
    _print(bench, as_json, lambda: table(*same_rows(bench)))


@bench_app.command("policy")
def bench_policy_command(
    as_json: AsJson = False,
    seed: Seed = 1,
    truths: Annotated[int, typer.Option(help="Machines an archetype.", min=4)] = 150,
    disturbed: Annotated[
        bool, typer.Option("--disturbed", help="The library's words and rates are off.")
    ] = False,
    archetype: Annotated[
        list[str] | None, typer.Option(help="Only machines of this kind; may be said again.")
    ] = None,
) -> None:
    """Play the plan and plainer ways of working on machines with known faults, and say what each
    is worth."""
    from bottega.benchmark.policy import all_archetypes, bench_policy, tasks_of
    from bottega.benchmark.policy_table import as_table

    known = all_archetypes()
    chosen = archetype or known
    for name in chosen:
        if name not in known:
            raise typer.BadParameter(f"found '{name}', expected one of {', '.join(known)}")
    whole = tasks_of(truths, chosen)
    with typer.progressbar(length=whole, label="machines", file=sys.stderr) as bar:
        bench = bench_policy(truths, seed, disturbed, chosen, done=lambda: bar.update(1))
    _print(bench, as_json, lambda: as_table(bench))


@bench_app.command("web")
def bench_web_command(
    as_json: AsJson = False,
    seed: Seed = 1,
    people: Annotated[int, typer.Option(help="How many work at once.", min=1)] = 50,
    seconds: Annotated[
        float, typer.Option(help="For how long, each number of people.", min=1)
    ] = 60,
    most: Annotated[int, typer.Option(help="Go on to at most so many people.", min=1)] = 400,
    port: int = 8071,
) -> None:
    """Start the application with a demo shop of its own; time its pages for one person, for many,
    and for ever more."""
    from bottega.benchmark.diagnosis import table
    from bottega.benchmark.web import bench_web, web_rows

    with TemporaryDirectory() as folder:
        bench = bench_web(Path(folder), port, seed, people, seconds=seconds, most=most, say=_say)
    _print(bench, as_json, lambda: table(*web_rows(bench)))


@bench_app.command("attack")
def bench_attack_command(
    as_json: AsJson = False,
    seed: Seed = 1,
    minutes: Annotated[float, typer.Option(help="For how long requests are sent.", min=0.1)] = 10,
    requests: Annotated[int, typer.Option(help="How many requests at the least.", min=1)] = 10_000,
    kills: Annotated[int, typer.Option(help="How often the server is killed.", min=0)] = 60,
    port: int = 8072,
) -> None:
    """Attack the application: hostile requests, kills under load, a full disk, twenty writers.
    Wants the dev extra."""
    from bottega.benchmark.attack import attack_rows, bench_attack
    from bottega.benchmark.diagnosis import table

    with TemporaryDirectory() as folder:
        bench = bench_attack(
            Path(folder), port, seed, minutes, requests=requests, kills=kills, say=_say
        )
    _print(bench, as_json, lambda: table(*attack_rows(bench)))


@bench_app.command("panel")
def bench_panel_command(
    as_json: AsJson = False,
    seed: Seed = 1,
    people: Annotated[int, typer.Option(help="Who tap along with each code.", min=1)] = 40,
) -> None:
    """Tap along with every code as people do, and say how often the right one is read."""
    from bottega.benchmark.diagnosis import table
    from bottega.benchmark.panel import bench_panel, panel_rows

    bench = bench_panel(seed, people)
    _print(bench, as_json, lambda: table(*panel_rows(bench)))


@bench_app.command("walk")
def bench_walk_command(
    as_json: AsJson = False,
    seed: Seed = 1,
    steps: Annotated[int, typer.Option(help="Commands in all.", min=1)] = 200_000,
    breadth: Annotated[
        int, typer.Option(help="States of a kind that are left in every direction.", min=1)
    ] = 150,
) -> None:
    """Give every command there is, and hold what is let through against what may never be."""
    from bottega.benchmark.diagnosis import table
    from bottega.benchmark.walk import bench_walk, walk_rows

    bench = bench_walk(seed, steps, breadth)
    _print(bench, as_json, lambda: table(*walk_rows(bench)))
    for kind, example in bench.examples.items():
        _say(f"{kind}: {example}")


@bench_app.command("meter")
def bench_meter_command(
    as_json: AsJson = False,
    touches: Annotated[int, typer.Option(help="How often the points are touched.", min=1)] = 40,
) -> None:
    """Time what a meter shows until it is on the page."""
    from bottega.benchmark.diagnosis import table
    from bottega.benchmark.meter import bench_meter, meter_rows

    bench = bench_meter(touches)
    _print(bench, as_json, lambda: table(*meter_rows(bench)))


@bench_app.command("rig")
def bench_rig_command(
    as_json: AsJson = False,
    seed: Seed = 1,
    specimens: Annotated[
        int, typer.Option(help="Sound machines of each sheet run through each programme.", min=0)
    ] = 0,
    faulty: Annotated[
        int, typer.Option(help="Machines of each fault at its mildest, on every kind.", min=0)
    ] = 0,
    draws: Annotated[
        int, typer.Option(help="Draws of all figures chosen in the rig's code, by kind.", min=0)
    ] = 0,
) -> None:
    """Time the machine of physics, weigh its heat and water, and count what it can show."""
    from bottega.benchmark.columns import columns
    from bottega.benchmark.rigs import bench_rig, rig_rows

    bench = bench_rig(seed, specimens, _say, faulty=faulty, draws=draws)
    _print(bench, as_json, lambda: columns(*rig_rows(bench)))


@bench_app.command("fleet")
def bench_fleet_command(
    as_json: AsJson = False,
    seed: Seed = 1,
    machines: Annotated[int, typer.Option(help="Machines of the fleet.", min=1)] = 1000,
    resume: Annotated[
        Path | None,
        typer.Option(
            help="File the played machines are kept in; what it holds is not played again."
        ),
    ] = None,
    plot: Annotated[
        Path | None, typer.Option(help="Draw what was said against what was so, as .png or .svg.")
    ] = None,
) -> None:
    """Play every way of working on machines of physics that the library did not make."""
    from bottega.benchmark import fleet_table
    from bottega.benchmark.fleet import bench_fleet
    from bottega.commands.plots import NoSuchPlot, plot_calibration, refuse_other_files

    try:
        if plot is not None:
            refuse_other_files(plot)
        with typer.progressbar(length=machines, label="machines", file=sys.stderr) as bar:
            bench = bench_fleet(machines, seed, lambda: bar.update(1), resume)
        if plot is not None:
            plot_calibration(bench.calibration, plot, f"{machines} machines, seed {seed}")
    except NoSuchPlot as error:
        raise typer.BadParameter(str(error)) from error
    except OSError as error:
        raise typer.BadParameter(f"{error.filename}: {error.strerror}") from error
    _print(bench, as_json, lambda: fleet_table.as_table(bench))


@bench_app.command("strip")
def bench_strip_command(
    as_json: AsJson = False,
    seed: Seed = 1,
    cases: Annotated[int, typer.Option(help="Made-up work held against brute force.", min=1)] = 200,
) -> None:
    """Plan every part of every kind there and back, and fill seats with stock seals."""
    from bottega.benchmark.columns import columns
    from bottega.benchmark.strip import bench_strip, strip_rows

    bench = bench_strip(seed, cases, _say)
    _print(bench, as_json, lambda: columns(*strip_rows(bench)))


@bench_app.command("cases")
def bench_cases_command(
    file: Annotated[
        Path | None, typer.Argument(help="Cases as YAML; without, those that come along.")
    ] = None,
    as_json: AsJson = False,
) -> None:
    """Hold cases of repair written apart from the library against what is said of them."""
    from bottega.app.errors import BadValue
    from bottega.benchmark.cases import CASES, bench_cases, case_rows, read_cases
    from bottega.benchmark.columns import columns

    try:
        cases = read_cases(file or CASES)
    except BadValue as error:
        raise typer.BadParameter(str(error), param_hint="FILE") from error
    bench = bench_cases(cases)
    _print(bench, as_json, lambda: columns(*case_rows(bench)))


@bench_app.command("hearing")
def bench_hearing_command(
    file: Annotated[
        Path | None, typer.Argument(help="Sentences as YAML; without, those that come along.")
    ] = None,
    as_json: AsJson = False,
    words: Annotated[
        str, typer.Option("--vocabulary", help="Print what can be heard of this kind of machine.")
    ] = "",
) -> None:
    """Hold sentences as customers say them against what is heard in them."""
    from bottega.app.errors import BadValue
    from bottega.benchmark.columns import columns
    from bottega.benchmark.hearing import (
        SENTENCES,
        bench_hearing,
        hearing_rows,
        read_sentences,
        vocabulary,
    )

    try:
        if words:
            rows = [[name, says] for name, says in vocabulary(words).items()]
            typer.echo(columns(["meaning", "in plain words"], rows))
            return
        sentences = read_sentences(file or SENTENCES)
    except BadValue as error:
        raise typer.BadParameter(str(error), param_hint="FILE") from error
    bench = bench_hearing(sentences)
    _print(bench, as_json, lambda: columns(*hearing_rows(bench)))
