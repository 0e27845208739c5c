"""What a library lacks is counted once an edition."""

from bottega.core.library.lacks import guessed, lacks_of, without_window


def test_the_shipped_library_has_no_problem_and_says_which_windows_are_guesses(shelf):
    lacks = lacks_of(shelf)
    assert lacks.problems == []
    assert {machine.sheet for machine, _ in lacks.lacking} == set(shelf.sheets)
    for machine, checks in lacks.lacking:
        assert checks == guessed(machine)
        known = [check.id for check in without_window(machine)]
        assert {check.id for check in checks} <= set(known)
        assert all(check.measure.value not in machine.values for check in checks)


def test_it_is_worked_out_once_an_edition(workshop, monkeypatch):
    asked = []

    def made():
        asked.append(workshop.edition)
        return lacks_of(workshop.shelf)

    first = workshop.lacks.get(workshop.edition, made)
    assert workshop.lacks.get(workshop.edition, made) is first
    assert workshop.lacks.get(workshop.edition + 1, made) is not first
    assert len(asked) == 2
