"""Records of runs: read, refused, and what they show, against runs made by formula and by the
rig."""

import io
from math import exp

import pytest

from bottega.core.library.shelf import shipped_shelf
from bottega.core.measure.trace import TraceError, read_trace, shows
from bottega.rig.machine import Machine
from bottega.rig.specimen import Specimen
from bottega.rig.telemetry import sample, write_csv


def csv_of(**columns: list[float]) -> str:
    names = list(columns)
    rows = zip(*columns.values(), strict=True)
    return "\n".join([",".join(names), *(",".join(f"{v}" for v in row) for row in rows)])


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("", "expected one with seconds"),
        ("a,b\n1,2", "expected one with seconds"),
        ("seconds,colour\n1,2", "no column that is known"),
        ("seconds,watts\n0,1\n1,much\n2,3", "line 3: found 'much' for watts"),
        ("seconds,watts\n0,1\n1,nan\n2,3", "line 3: found nan"),
        ("seconds,watts\n0,1\n2,1\n1,3", "line 4: found 1 s after 2 s"),
        ("seconds,water_c\n0,1\n1,900\n2,3", "expected -20 to 120"),
        ("seconds,watts\n0,-5\n1,2\n2,3", "line 2: found -5"),
        ("seconds,watts\n0,1\n1,2", "at least three"),
        ("seconds,watts\n0\n1,2\n2,1", "line 2: found '' for watts"),
    ],
)
def test_a_record_that_cannot_be_is_refused_with_its_line(text, says):
    with pytest.raises(TraceError, match=says):
        read_trace(text)


def test_water_that_warms_by_a_straight_line():
    """Two kelvin a minute for five minutes, after a minute of standing."""
    t = list(range(0, 360, 2))
    c = [15 + max(0, s - 60) / 60 * 2 for s in t]
    found = shows(read_trace(csv_of(seconds=t, water_c=c)))
    assert found.rise.k_min == pytest.approx(2, rel=0.01)
    assert (found.rise.from_c, found.rise.to_c) == (15, pytest.approx(24.93, abs=0.1))


def test_speeds_that_are_held_and_how_slowly_it_builds_up():
    """Steps at 400, 800 and 1200, each reached by a first-order lag of two seconds."""
    t = [n / 2 for n in range(240)]
    rpm, speed = [], 0.0
    for s in t:
        wanted = 0 if s < 5 else 400 if s < 40 else 800 if s < 75 else 1200
        speed += (wanted - speed) * (1 - exp(-0.5 / 2))
        rpm.append(speed)
    found = shows(read_trace(csv_of(seconds=t, drum_rpm=rpm)))
    held = [round(p.rpm, -1) for p in found.plateaus]
    assert held == [400, 800, 1200]
    assert all(20 < p.seconds < 46 for p in found.plateaus)
    assert found.top_rpm == pytest.approx(1200, rel=0.01)
    assert found.build_up_s == pytest.approx(75 + 2 * 1.4 - 5.6, abs=2)


def test_what_is_switched_on_and_off():
    t = list(range(100))
    watts = [60 + 1900 * (20 <= s < 70) for s in t]
    found = shows(read_trace(csv_of(seconds=t, watts=watts)))
    assert [(s.at_s, s.before_w, s.after_w) for s in found.switched] == [
        (20, 60, 1960),
        (70, 1960, 60),
    ]


def test_a_gap_is_named_and_nothing_is_computed_across_it():
    t = [*range(0, 60, 2), *range(300, 360, 2)]
    c = [15 + s / 30 for s in t]
    trace = read_trace(csv_of(seconds=t, water_c=c))
    assert trace.gaps == ((58, 300),)
    assert shows(trace).rise.seconds < 60


def test_a_record_of_columns_that_say_nothing_shows_nothing():
    found = shows(read_trace("seconds,ampere\n0,1\n1,1\n2,1"))
    assert (found.rise, found.top_rpm, found.plateaus, found.switched) == (None, None, (), ())


def test_the_rigs_own_record_gives_back_what_its_plate_says():
    """A heater step of a sound machine: what is switched on is the element by its plate, and what
    warms the water is that less what is lost."""
    machine_type = shipped_shelf().machine("FB", "nembrio-f7")
    machine = Machine(Specimen(machine_type, "7"), frozenset(), empty=True)
    samples = []
    machine.telemetry = lambda m: samples.append(sample(m)) if m.now.seconds % 2 == 0 else None
    machine.run("fill")
    machine.run("heat")
    file = io.StringIO()
    write_csv(samples, file)
    found = shows(read_trace(file.getvalue()))
    watts = max(s.after_w - s.before_w for s in found.switched)
    assert watts == pytest.approx(machine_type.plate.heater_w, rel=0.12)
    effective = found.rise.k_min / 60 * found.litres * 4186 * 0.998
    assert 0.5 * watts < effective < 1.05 * watts
