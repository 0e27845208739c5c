"""The settings: another currency and mains, and what cannot be."""

import pytest
from tests.app.steps import prove_the_pump

from bottega.app.decide.decision import decision
from bottega.app.errors import BadValue
from bottega.app.job.answer import diagnose
from bottega.app.shop.settings import change_settings


def test_settings_switch_to_dollars_and_120_volts(workshop, houseboat):
    before = decision(
        workshop, prove_the_pump(workshop, houseboat), "repair", "drain_pump.part", reason=""
    )
    settings = change_settings(
        workshop,
        {"currency": "usd", "per_eur": "1.2", "mains_v": "120", "mains_hz": "60", "units": "us"},
    )
    assert (settings.currency, settings.units) == ("USD", "us")
    after = decision(
        workshop, diagnose(workshop, houseboat), "repair", "drain_pump.part", reason=""
    )
    assert after.currency == "USD"
    assert after.total > before.total
    for typed, words in [
        ({"mains_v": "12000"}, "expected 90 to 260"),
        ({"currency": "zzz"}, "three letters"),
        ({"units": "cubits"}, "metric"),
        ({"ferry_days": "Someday"}, "such as Tue"),
        ({"colour": "red"}, "one of the shop"),
    ]:
        with pytest.raises(BadValue, match=words):
            change_settings(workshop, typed)
    assert workshop.settings == settings
