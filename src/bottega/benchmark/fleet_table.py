"""The fleet's figures beside their goals, as a person reads them."""

from bottega.benchmark.columns import columns
from bottega.benchmark.fleet import FleetBench
from bottega.benchmark.policy_table import ROWS, shown

GOALS = {"first_right": ">= 95 %", "within_five": ">= 90 %"}
"""What a fleet asks for where it is not what the policies are asked for on their own model."""


def fleet_rows(bench: FleetBench) -> tuple[list[str], list[list[str]]]:
    """Return what each way of working is worth with its interval: the head, a row a measure."""
    names = list(bench.policies)
    rows = []
    for words, key, shape, _ in ROWS:
        own = [shown(getattr(bench.policies[name], key), shape) for name in names]
        rows.append([words, *own, GOALS.get(key, "")])
    rows.append(["minutes", *(shown(bench.minutes[name], "number") for name in names), ""])
    rows.append(["callbacks", *(shown(bench.callbacks[name], "number") for name in names), ""])
    blank = [""] * (len(names) - 1)
    rows += [
        ["all in, less than information", shown(bench.saved, "share"), *blank, ">= 10 %"],
        ["of machines with a fault", shown(bench.saved_faulty, "share"), *blank, ""],
        [
            "all in, over the fixed checklist",
            shown(bench.over_checklist, "share"),
            *blank,
            "<= 60 %",
        ],
        ["sound machines left alone", shown(bench.sound.ended_well, "share"), *blank, ">= 80 %"],
        ["said less true, points", f"{bench.said_less_true * 100:+.1f}", *blank, "within 3"],
    ]
    return ["measure", *names, "goal"], rows


def as_table(bench: FleetBench) -> str:
    """Return the whole table: the ways of working, by kind and by age, and what was said against
    what was so."""
    head, rows = fleet_rows(bench)
    lines = [columns(head, rows)]
    for title, groups in (("kind", bench.by_kind), ("age, years", bench.by_age)):
        lines += [
            "",
            f"{title:<12}{'machines':>10}{'first right':>20}{'within five':>20}{'all in':>22}",
        ]
        lines += [
            f"{name:<12}{g.machines:>10}{shown(g.first_right, 'share'):>20}"
            f"{shown(g.within_five, 'share'):>20}{shown(g.all_in, 'number'):>22}"
            for name, g in groups.items()
        ]
    said = [f"{c.said:>8.0%}{c.true:>8.0%}{c.jobs:>8}" for c in bench.calibration]
    silent = f"nobody called about {bench.not_called}"
    title = f"{bench.truths} machines of physics, seed {bench.seed}; {silent}"
    return "\n".join([title, "", *lines, "", f"{'said':>8}{'was so':>8}{'jobs':>8}", *said])
