"""What of a job is asked for by its address, and the address that asks the same again."""

from urllib.parse import parse_qs, urlsplit

import pytest

from bottega.app.job.answer import diagnose
from bottega.web.station.asked import TABS, Asked


def test_an_address_asks_the_same_again(browser, demo):
    page = browser.get("/jobs/0412/prove?check=turn_rotor&weigh=rotor_slips")
    again = page.text.split('hx-get="')[1].split('"')[0].replace("&amp;", "&")
    asked = parse_qs(urlsplit(again).query)
    assert (asked["check"], asked["weigh"]) == (["turn_rotor"], ["rotor_slips"])
    assert diagnose(demo, "0412").machine.checks["turn_rotor"].name in browser.get(again).text


@pytest.mark.parametrize("tab", [*TABS, "cellar"])
def test_a_tab_nobody_knows_is_the_first(browser, tab):
    shown = browser.get(f"/jobs/0412/prove?tab={tab}").text
    assert f'data-tab="{tab if tab in TABS else "next"}"' in shown


def test_the_same_is_asked_of_another_station():
    asked = Asked("prove", check="turn_rotor", view="layers")
    assert asked.at("open") == Asked("open", check="turn_rotor", view="layers")
    assert asked.layers
    assert not Asked("prove").layers
