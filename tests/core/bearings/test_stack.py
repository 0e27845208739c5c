"""The stack finder against brute force, and worked seats."""

from itertools import product

import pytest

from bottega.core.bearings.stack import Seat, SeatError, seat_of, stacks, stock_of
from bottega.core.library.hub_record import Bore, Land, Relief
from bottega.core.library.shelf import shipped_shelf

SHELF = shipped_shelf()
TABLE = SHELF.tables.seals
KINDS = ("FB", "FI", "FD", "WD", "TS", "TD", "TG", "SL")


def bore(first, last, mm):
    return Bore.model_validate({"from": first, "to": last, "mm": mm})


def land(first, last, mm, grooved=False):
    return Land.model_validate({"from": first, "to": last, "mm": mm, "grooved": grooved})


def brute(seat: Seat) -> set[tuple[tuple[str, float, bool], ...]]:
    """Every row of up to three seals in every step, tried one by one, with no cleverness."""
    rows = []
    for step in seat.steps:
        fitting = [s for s in stock_of(TABLE) if abs(s.bore_mm - step.mm) <= TABLE.bore_within_mm]
        here = [()]
        for count in (1, 2, 3):
            for seals in product(fitting, repeat=count):
                for ways in product((True, False), repeat=count):
                    at, row, good = step.from_, [], True
                    for seal, way in zip(seals, ways, strict=True):
                        lip = at + seal.width_mm * (TABLE.lip_at if way else 1 - TABLE.lip_at)
                        under = [x for x in seat.lands if x.from_ <= lip <= x.to]
                        good &= bool(under) and abs(under[0].mm - seal.shaft_mm) <= 0.3
                        hole = seat.relief
                        if hole:
                            apart = at + seal.width_mm <= hole.at - hole.mm / 2
                            good &= apart or at >= hole.at + hole.mm / 2
                        row.append((seal.name, at, way))
                        at += seal.width_mm
                    if good and at <= step.to + 1e-9:
                        here.append(tuple(row))
        rows.append(here)
    joined = {tuple(x for row in rows_ for x in row) for rows_ in product(*rows)}
    return {row for row in joined if any(way for _, _, way in row)}


SEATS = [
    Seat((bore(0, 8, 52), bore(8, 18, 65)), (land(0, 40, 35),)),
    Seat((bore(0, 15, 52),), (land(0, 40, 30),)),
    Seat((bore(0, 20, 62),), (land(0, 9, 40), land(9, 11, 40, True), land(11, 40, 40))),
    Seat((bore(0, 20, 47),), (land(0, 40, 25),), Relief(at=3, mm=4)),
    Seat((bore(0, 7, 52), bore(7, 17, 55)), (land(0, 40, 30),), Relief(at=3, mm=2)),
    Seat((bore(0, 10, 51.9),), (land(0, 40, 34.8),)),
]


@pytest.mark.parametrize("seat", SEATS)
def test_every_stack_is_found_and_no_other(seat):
    found = {
        tuple((s.stock.name, s.at_mm, s.to_water) for s in stack.seals)
        for stack in stacks(TABLE, seat, 10**6).stacks
    }
    assert found == brute(seat)
    assert stacks(TABLE, seat, 3).count == len(found)


def rank(stack):
    """How good a stack is, written apart from the finder."""
    shortfall = (stack.grooved, -min(stack.water, 2), -min(stack.dust, 1), stack.back)
    return (*shortfall, stack.left_mm, stack.price_eur)


@pytest.mark.parametrize("seat", SEATS)
@pytest.mark.parametrize("most", [1, 7, 40])
def test_the_first_are_the_best_of_all(seat, most):
    every = [rank(stack) for stack in stacks(TABLE, seat, 10**6).stacks]
    assert every == sorted(every)
    assert [rank(stack) for stack in stacks(TABLE, seat, most).stacks] == every[:most]


def test_a_seat_with_three_deep_steps_is_filled_at_once_and_says_how_many_more_there_are():
    seat = Seat((bore(0, 60, 52), bore(60, 120, 52.1), bore(120, 180, 52.15)), (land(0, 200, 35),))
    found = stacks(TABLE, seat)
    assert len(found.stacks) == 200
    assert found.count > 10**8


@pytest.mark.parametrize("kind", KINDS)
def test_every_hub_takes_a_stack_of_stock_seals_and_none_covers_its_relief_hole(kind):
    hub = SHELF.machine(kind).hub
    seat = seat_of(hub)
    found = stacks(TABLE, seat).stacks
    assert found
    for stack in found:
        for before, after in zip(stack.seals, stack.seals[1:], strict=False):
            assert before.ends_mm <= after.at_mm + 1e-9
        assert stack.left_mm >= 0
        assert stack.price_eur > 0
        for seal in stack.seals:
            step = next(s for s in seat.steps if s.from_ <= seal.at_mm < s.to)
            assert abs(step.mm - seal.stock.bore_mm) <= 0.15


def test_a_stepped_seat_is_filled_with_two_lips_and_one_against_grit_first():
    best = stacks(TABLE, SEATS[0]).stacks[0]
    assert [seal.stock.bore_mm for seal in best.seals] == [52, 65]
    assert (best.water, best.dust, best.left_mm) == (2, 1, 0)


def test_good_shaft_goes_before_a_groove():
    found = stacks(TABLE, SEATS[2]).stacks
    assert found[0].grooved == 0
    assert any(stack.grooved for stack in found)
    assert [stack.grooved for stack in found] == sorted(stack.grooved for stack in found)


def test_a_seat_smaller_than_its_shaft_is_refused():
    with pytest.raises(SeatError, match="seat of 30 mm round a shaft of 35"):
        stacks(TABLE, Seat((bore(0, 8, 30),), (land(0, 20, 35),)))
    with pytest.raises(SeatError, match="widens"):
        stacks(TABLE, Seat((bore(0, 8, 65), bore(8, 16, 52)), (land(0, 20, 35),)))
