"""How good it is, by HTTP: the figures of the fleet that is kept, in words that are so."""

import json
import re

import pytest

from bottega.app.rig.worth import FLEET, Share
from bottega.web.rig.worth import in_percent


def test_the_page_says_what_the_kept_fleet_says(browser):
    kept = json.loads(FLEET.read_text())
    text = re.sub(r"\s+", " ", re.sub(r"<[^>]+>", "", browser.get("/how-good").text))
    plan, plain = (kept["policies"][name] for name in ("bottega", "information"))
    for way in (plan, plain):
        assert f"{way['all_in']['mean']:.0f} {way['all_in']['low']:.0f} to" in text
        assert way["all_in"]["mean"] < way["all_in_faulty"]["mean"]
    saved, faulty = (in_percent(Share(**kept[key])).mean for key in ("saved", "saved_faulty"))
    assert f"saves {saved} " in text
    assert f"where the machine has a fault, {faulty} " in text
    less = 1 - plan["all_in"]["mean"] / plain["all_in"]["mean"]
    assert kept["saved"]["mean"] == pytest.approx(less, abs=1e-3)
