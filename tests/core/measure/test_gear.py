"""The shop's test gear: which instrument a quantity is measured with."""

from bottega.core.gear import Instrument, beyond, that_measures


def test_the_earth_is_measured_with_what_there_is():
    """Whoever wrote down a multimeter only, or before there was an earth tester, is not told that
    nobody here measures an earth; the tester is taken where there is one."""
    meter = Instrument("bench meter", ("resistance", "ac_volts"))
    insulation = Instrument("insulation tester", ("insulation",))
    tester = Instrument("earth tester", ("earth_bond",))
    assert beyond([meter], ["earth_bond", "current"]) == {"current"}
    assert that_measures([meter], "earth_bond") is meter
    assert that_measures([meter, insulation], "earth_bond") is insulation
    assert that_measures([meter, insulation, tester], "earth_bond") is tester
    assert that_measures([tester], "resistance") is None
