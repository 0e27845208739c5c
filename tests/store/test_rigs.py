"""Tickets of machines on the rig, as they are kept."""

import pytest
from tests.app.test_rig_left import drawn

from bottega.app.errors import Stale
from bottega.app.rig.acts import act
from bottega.app.rig.fetch import stand
from bottega.store.rigs import MovedSince, RigTicket


def test_two_who_hold_the_same_machine_apart_do_not_act_over_each_other(workshop):
    mine = drawn(workshop)
    workshop.stands.clear()
    act(workshop, "one", "pour", "", seen=0)
    workshop.stands["one"] = mine
    with pytest.raises(Stale):
        act(workshop, "one", "pour", "", seen=0)
    assert stand(workshop, "one").acts == 1
    with pytest.raises(MovedSince):
        workshop.rigs.leave("one", 5, {})


def test_binding_a_job_leaves_the_machine_as_it_stands(workshop):
    drawn(workshop)
    act(workshop, "one", "pour", "", seen=0)
    workshop.rigs.keep(RigTicket("one", "FB", None, "seed", {}, "0412"))
    assert workshop.rigs.left("one")[0] == 1
    assert workshop.rigs.left("one")[1]["heat"]["litres"] == pytest.approx(5, abs=0.1)
