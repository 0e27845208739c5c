"""The figures of the policies beside their goals, as a person reads them."""

from bottega.app.rig.worth import Share
from bottega.benchmark.policy import PolicyBench

ROWS = (
    ("first repair right", "first_right", "share", ">= 92 %"),
    ("found within five checks", "within_five", "share", ">= 75 %"),
    ("checks", "checks", "number", ""),
    ("money to the first repair", "cost", "number", ""),
    ("money all in, every call", "all_in", "number", ""),
    ("of machines with a fault", "all_in_faulty", "number", ""),
    ("every fault gone", "all_gone", "share", ""),
    ("two faults, whole in the end", "two_fault_whole", "share", ">= 75 %"),
)
"""What is shown: in words, the figure's key, its shape, the goal."""


def as_table(bench: PolicyBench) -> str:
    """Return what each policy is worth with its interval, a line a measure, and the calibration."""
    names = list(bench.policies)
    rows = [("measure", *names, "goal")]
    for words, key, shape, goal in ROWS:
        own = [getattr(bench.policies[name], key) for name in names]
        rows.append((words, *(shown(share, shape) for share in own), goal))
    most = [str(bench.policies[name].most_checks) for name in names]
    blank = [""] * (len(names) - 1)
    rows += [
        ("most checks of a job", *most, "20, then refer"),
        ("all in, less than information", shown(bench.saved, "share"), *blank, ">= 10 %"),
        ("of machines with a fault", shown(bench.saved_faulty, "share"), *blank, ""),
        ("sound machines left alone", shown(bench.sound.ended_well, "share"), *blank, ">= 80 %"),
        ("said less true, points", f"{bench.said_less_true * 100:+.1f}", *blank, "within 3"),
        ("a job said to cost", shown(bench.money.costs, "number"), *blank, "as paid"),
        ("and paid", shown(bench.money.paid, "number"), *blank, ""),
        ("a check said to save", shown(bench.money.saves, "number"), *blank, "as saved"),
        ("and saved", shown(bench.money.saved, "number"), *blank, ""),
    ]
    off = ", words and rates off" if bench.disturbed else ""
    lines = [f"{row[0]:<32}" + "".join(f"{cell:>25}" for cell in row[1:]) for row in rows]
    said = [f"{c.said:>8.0%}{c.true:>8.0%}{c.jobs:>8}" for c in bench.calibration]
    head = f"{bench.truths} machines an archetype, seed {bench.seed}{off}"
    return "\n".join([head, "", *lines, "", f"{'said':>8}{'was so':>8}{'jobs':>8}", *said])


def shown(share: Share, shape: str) -> str:
    """Return a mean with its interval, as a share or as a number."""
    if shape == "share":
        return f"{share.mean:.1%} ({share.low:.0%} to {share.high:.0%})"
    return f"{share.mean:.1f} ({share.low:.1f} to {share.high:.1f})"
