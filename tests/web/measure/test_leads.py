"""The meter's leads on a machine of the rig."""

import pytest
from tests.web.measure.test_live import CHECK, RIG, unplugged

from bottega.app.errors import Refused
from bottega.app.rig.leads import lay_for, lay_on, lift, touched, touched_last


def test_leads_touch_what_the_check_wants_and_nothing_once_lifted(browser, demo):
    unplugged(browser, demo)
    assert touched(demo, RIG, "insulation") is None
    lay_for(demo, RIG, CHECK)
    assert touched(demo, RIG, "insulation") > 1
    assert touched_last(demo, "insulation") == touched(demo, RIG, "insulation")
    assert touched(demo, RIG, "resistance") is None
    lift(demo, RIG)
    assert touched(demo, RIG, "insulation") is None


def test_leads_on_two_points_read_the_wiring(browser, demo):
    unplugged(browser, demo)
    lay_on(demo, RIG, "plug.L", "fuse.L")
    assert 0 <= touched(demo, RIG, "resistance") < 1
    lay_on(demo, RIG, "plug.L", "socket.L")
    assert touched(demo, RIG, "resistance") is None
    with pytest.raises(Refused, match="cannot be come at"):
        lay_on(demo, RIG, "pump.1", "pump.2")
