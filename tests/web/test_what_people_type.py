"""Whatever is typed into any field: an answer, and never an error of the server. The values are
those that felled it once, and their like."""

import pytest

from bottega.app.rig.fetch import stand
from bottega.benchmark.hostile import NASTY
from bottega.store.rigs import RigTicket

SHEET = "/library/FB/nembrio-f9"
PART = {"component": "drain_pump", "number": "11", "price": "9"}
VALUE = {"key": "pump_coil_ohm", "low": "1", "high": "2", "unit": "ohm", "grade": "measured"}
FASTENER = {"operation": "top", "kind": "screw", "count": "3"}
CODE = {"code": "7-1", "shows": "7 1", "name": "odd", "reads": "fill", "stored_1": "usually"}
READING = {"check": "measure_standpipe", "typed": "900", "unit": ""}
FORMS = {
    "/jobs/0412/prove/reading": READING | {"at": "20", "note": "", "settles": ""},
    "/jobs/0412/decide/decide": {"choice": "repair", "repair": "drain_pump.part", "reason": ""},
    "/jobs/0412/prove/event": {"kind": "noted", "text": "x"},
    "/jobs/0412/open/off": {"operation": "top", "note": "", "tag": ""},
    "/jobs/0414/panel/flashes": {"seen_0": "1", "result": "unknown", "version": "", "number": "1"},
    "/jobs/0412/safe/event": {"kind": "state_changed", "what": "charge", "measured_v": "3"},
    "/shop": {"visit_fee": "1", "name": "x", "seals": "", "ferry_days": "", "currency": "EUR"},
    "/shop/member": {"name": "x", "role": "x"},
    "/shop/gear": {"name": "x", "accuracy": "1", "calibrated": "", "resource": "", "measures": "x"},
    f"{SHEET}/part": PART | {"revision": "", "tell": "", "diagram": "", "replaces": ""},
    f"{SHEET}/value": VALUE | {"source": "x"},
    f"{SHEET}/fastener": FASTENER | {"size": "4", "head": "hex", "place": "", "hand": ""},
    f"{SHEET}/code": CODE,
    f"{SHEET}/note": {"note": "x"},
    f"{SHEET}/csv": {"table": "code,shows,name,reads,stored\n"},
    f"{SHEET}/codes": {"rows": "[]"},
    f"{SHEET}/raw": {"text": "sheet: x", "seen": "0"},
    "/library/new": {"maker": "x", "model": "y", "archetype": "FB", "volts": "230"},
    "/rigs/typed001/act": {"what": "wait", "value": "60", "first": "pump.1", "second": "pump.2"},
    "/call": {"machine": "FB", "place": "x", "age": "7", "complaint": "it hums", "customer": ""},
}
PAGES = [
    "/seals?shaft={}&bore=52&depth=10",
    "/bearings?mark={}",
    "/measure/bucket?seconds={}&litres=2",
    "/measure/swing_by_count?bobs={}",
    "/library/which?seen={}",
    "/search?q={}",
    "/jobs/0412/prove?find={}",
    "/jobs/0412/prove?check={}",
    "/jobs/{}/prove",
    "/codes?machine=nembrio-f7&seen={}",
    "/rigs/typed001/probe?quantity={}",
    "/api/v1/seals?shaft={}&bore=52&depth=10",
]


JOB_PAGES = ["/", "/jobs/0412/prove", "/jobs/0412/decide", "/jobs/0412/report", "/jobs/0414/panel"]
SHOWN_ON = {
    "/jobs": JOB_PAGES,
    "/shop": ["/", "/shop", "/shop/gear", "/call", "/jobs/0412/decide", "/jobs/0412/report"],
    "/library": [SHEET, f"{SHEET}/edit", "/library/which", "/library/report", *JOB_PAGES[1:]],
    "/rigs": ["/rigs/typed001"],
    "/call": ["/", "/call"],
}
"""Where what was kept is shown, by how the form's address begins."""
MOST_A_FIELD = 9
"""Values typed into one field; the forms between them have every value in some field."""


@pytest.fixture
def typing(browser, demo):
    """A browser that shows errors of the server as answers, at a shop with a machine on the
    rig."""
    demo.rigs.keep(RigTicket("typed001", "FB", "nembrio-f7", "seed", {"tap_shut": 0.5}))
    browser.token()
    return browser


@pytest.mark.parametrize("address", FORMS)
def test_no_field_of_a_form_fells_the_server(typing, demo, address):
    """Each value is typed into one of the fields, and each field is typed into."""
    fell, own = [], list(FORMS[address])
    for place, field in enumerate(own):
        for value in NASTY[place % len(NASTY) :: len(own)][:MOST_A_FIELD]:
            fields = {**FORMS[address], field: value}
            if "/jobs/" in address:
                fields["seen"] = str(demo.log.seq(address.split("/")[2]))
            if "/rigs/" in address:
                fields["seen"] = str(stand(demo, "typed001").acts)
            answer = typing.form(address, **fields)
            if answer.status_code >= 500:
                fell.append((field, value[:30]))
    pages = SHOWN_ON[f"/{address.split('/')[1]}"]
    fell += [page for page in pages if typing.get(page).status_code >= 500]
    assert fell == []


@pytest.mark.parametrize("page", PAGES)
def test_no_part_of_an_address_fells_the_server(typing, page):
    fell = []
    for value in [one for one in NASTY if one.isprintable() and len(one) < 60_000]:
        answer = typing.get(page.split("?")[0].format(value), params=asked(page, value))
        if answer.status_code >= 500:
            fell.append(value[:30])
    assert fell == []


def asked(page, value):
    """Return what an address asks with a value in its place."""
    pairs = [one.split("=") for one in page.partition("?")[2].split("&") if one]
    return {name: text.format(value) for name, text in pairs}
