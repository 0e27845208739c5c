"""What is said, stored and seen of a machine, as chances over the states of its effects."""

import pytest

from bottega.core.library.errors import LibraryError
from bottega.core.library.signs import codes_of, complaints_of, marks_of, slip_of


def test_every_phrase_and_code_has_a_chance_in_every_state(shelf):
    for machine in shelf.machines():
        for complaint in machine.complaints.values():
            assert len(complaint.said) == len(machine.effects[complaint.effect].states)
            assert all(0 <= chance <= 1 for chance in complaint.said)
        for code in machine.codes.values():
            assert len(code.stored) == len(machine.effects[code.effect].states)


def test_a_slip_is_what_is_said_of_a_machine_of_which_nothing_is_so(shelf, f7):
    silent = 1.0
    for complaint in f7.complaints.values():
        silent *= 1 - complaint.said[0]
    assert slip_of(f7.complaints) == pytest.approx(1 - silent)
    assert slip_of({}) == 0


def test_what_speaks_of_an_effect_this_machine_lacks_is_left_out(shelf, f7):
    machine = shelf.assemblies["machine"]
    every = complaints_of(machine, f7.effects, shelf.tables)
    one = next(iter(every.values())).effect
    told = complaints_of(machine, {one: f7.effects[one]}, shelf.tables)
    assert set(told) == {name for name, said in every.items() if said.effect == one}
    assert 0 < len(told) < len(every)


def test_a_code_of_no_effect_and_a_mark_of_no_state_are_named(shelf, f7):
    record = next(iter(f7.codes.values())).record.model_copy(update={"reads": "nothing"})
    with pytest.raises(LibraryError, match="the id of an effect"):
        codes_of("sheet", {"1-1": record}, f7.effects, shelf.tables)
    drain = shelf.assemblies["drain"]
    name, mark = next(iter(drain.marks.items()))
    wrong = drain.model_copy(update={"marks": {name: mark.model_copy(update={"shows": "green"})}})
    with pytest.raises(LibraryError, match=f"marks.{name}.shows: found 'green'"):
        marks_of(wrong, f7.effects, f7.components, shelf.tables)
