"""The traces of a machine on the rig."""

import pytest

from bottega.web.rig.plot import three_figures


@pytest.mark.parametrize(
    ("value", "shown"),
    [
        (13.2741, "13.3"),
        (15.323, "15.3"),
        (48.0, "48"),
        (1668.4, "1670"),
        (0.0, "0"),
        (0.04, "0.04"),
    ],
)
def test_a_figure_is_shown_as_finely_as_a_meter_would(value, shown):
    assert three_figures(value) == shown
