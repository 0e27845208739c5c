"""Programmes of the rig."""

import pytest

from bottega.rig.machine import machine_of
from bottega.rig.programmes import NoSuchProgramme, phases_of, programmes_of


def test_a_programme_there_is_not_is_named(f7):
    with pytest.raises(
        NoSuchProgramme, match=r"found the programme 'cotons_60'.*nearest is 'cottons_60'"
    ):
        machine_of(f7, "1").start("cotons_60")


def test_a_drying_programme_takes_no_water_and_a_step_called_so_stays_a_step(shelf):
    dryer = shelf.machine("WD", "virgola-asciutta-7")
    whole = [phase.kind for phase in phases_of(dryer, "dry_programme")]
    assert whole == ["lock", "spin", "dry", "unlock"]
    assert [phase.kind for phase in phases_of(dryer, "dry")] == ["lock", "dry"]
    assert "dry_programme" in programmes_of(dryer)
    assert "dry" not in programmes_of(dryer)
