"""Figures and times as pages say them."""

from datetime import UTC, datetime, timedelta

import pytest

from bottega.core.shop import ShopSettings
from bottega.web.kit import words


@pytest.mark.parametrize(
    ("minutes", "said"),
    [(None, ""), (0, "1 min"), (4.4, "4 min"), (59.4, "59 min"), (60, "1 h 00"), (130, "2 h 10")],
)
def test_minutes(minutes, said):
    assert words.minutes_words(minutes) == said


def test_money_is_in_the_shops_currency():
    assert words.money(84.5, ShopSettings(currency="EUR")) == "€84.50"
    assert words.money(84.5, ShopSettings(currency="USD")).endswith("84.50")
    assert words.money(84.4, ShopSettings(currency="EUR"), digits=False) == "€84"


def test_bars_weights_and_figures():
    assert words.bar(0.0, 120) == 1.0
    assert words.bar(0.5, 120) == 60.0
    assert [words.decibans(d) for d in (12.4, -3.1, 0.2, -0.2)] == ["+12", "-3", "±0", "±0"]
    assert [words.figure(f) for f in (184.0, 0.5, 1050000.0)] == ["184", "0.5", "1.05e+06"]


def test_days_are_said_short():
    now = datetime(2031, 5, 14, 12, 0, tzinfo=UTC)
    assert words.day("2031-05-14") == "Wed 14 May"
    assert words.short_day(now, now) == words.clock(now)
    assert words.short_day(now - timedelta(days=3), now) == "11 May"
