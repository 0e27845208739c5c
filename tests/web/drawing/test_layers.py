"""The strip-down as slabs: each lies under what comes off before it, none lies on another, all are
on the drawing."""

from dataclasses import replace
from itertools import combinations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bottega.app.call.call import Call, Words, open_job
from bottega.web.drawing.layers import (
    DESK,
    MOST_DOTS,
    PHONE,
    SLAB_HEIGHT,
    SLAB_WIDTH,
    SLANT,
    layers_of,
)
from bottega.web.drawing.text import lines

KINDS = ("FB", "FD", "FI", "SL", "TD", "TG", "TS", "WD")


@pytest.fixture
def answers(workshop):
    def made(kind):
        call = Call(machine=kind, age_years=5, place="Quay")
        return open_job(workshop, call, Words(""), "Ilaria Venn", event_id=f"layers-of-{kind}")

    return made


@pytest.mark.parametrize("kind", KINDS)
def test_every_operation_has_its_slab_below_what_lies_over_it(answers, kind):
    answer = answers(kind)
    for across in (DESK, PHONE):
        stands_right(answer, layers_of(answer, None, across), across)


def stands_right(answer, stack, across):
    assert len({layer.x for layer in stack.layers}) <= across
    slabs = {layer.operation: layer for layer in stack.layers}
    assert set(slabs) == set(answer.machine.operations)
    for operation, record in answer.machine.operations.items():
        for above in record.after:
            assert slabs[above].y < slabs[operation].y
    for one, other in combinations(stack.layers, 2):
        apart = abs(one.x - other.x) >= SLAB_WIDTH + SLANT or abs(one.y - other.y) >= SLAB_HEIGHT
        assert apart, (one.name, other.name)
    assert max(layer.x for layer in stack.layers) + SLAB_WIDTH + SLANT <= stack.width
    assert max(layer.y for layer in stack.layers) + SLAB_HEIGHT <= stack.height


@pytest.mark.parametrize("kind", KINDS)
def test_the_way_is_numbered_in_its_order_and_what_is_off_is_dashed(answers, kind):
    answer = answers(kind)
    repair = max(answer.machine.repairs.values(), key=lambda r: len(r.needs.off))
    reach = answer.reaching.reach(answer.job.state, repair.needs)
    wanted = [step.to for step in reach.steps if step.kind == "operation"]
    stack = layers_of(answer, reach)
    numbered = sorted((layer.step, layer.operation) for layer in stack.layers if layer.step)
    assert [operation for _, operation in numbered] == wanted
    assert [step for step, _ in numbered] == list(range(1, len(wanted) + 1))
    for layer in stack.layers:
        held = sum(one.count for one in answer.machine.operations[layer.operation].fasteners)
        assert len(layer.dots) == (min(held, MOST_DOTS) if layer.step else 0)
        assert all(layer.x < x < layer.x + SLAB_WIDTH for x in layer.dots)
    state = replace(answer.job.state, off=tuple(wanted))
    off = layers_of(replace(answer, job=replace(answer.job, state=state)), None)
    assert {layer.operation for layer in off.layers if layer.off} == set(wanted)


@given(st.text(alphabet="abc de", max_size=120), st.integers(5, 40))
def test_a_name_stands_in_two_lines_that_fit(text, width):
    shown = lines(text, width)
    assert 1 <= len(shown) <= 2
    assert all(len(line) <= width for line in shown)
