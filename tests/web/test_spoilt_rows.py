"""Rows of the database spoilt by hand: each breaks one thing, and never every page."""

import pytest
from sqlalchemy import text

from bottega.store.rigs import RigTicket
from bottega.web.application import create_app

from tests.web.conftest import HOSTS, Browser  # isort: skip

PAGES = ["/", "/shop", "/shop/gear", "/library", "/library/which", "/rigs", "/call", "/search?q=x"]
OTHER = ["/jobs/0418/prove", "/jobs/0418/report"]
SPOILT = {
    "settings, no JSON": "UPDATE settings SET body = '{'",
    "settings, a text": """UPDATE settings SET body = '"x"'""",
    "settings, wrong kinds": """UPDATE settings SET body = '{"rate_per_hour": "much", "gear": 7,
        "currency": [], "prove_at": null, "schools": {"a": 1}, "name": "Faro"}'""",
    "gear, wrong kinds": """UPDATE settings SET body = '{"gear": [{"name": 7}, {"name": "Meter",
        "measures": ["power"], "calibrated": "yesterday"}]}'""",
    "summaries, no JSON": "UPDATE summaries SET body = '{'",
    "summaries, wrong kinds": "UPDATE summaries SET body = '[1]'",
    "rigs, no JSON": "UPDATE rigs SET faults = '{'",
    "rigs, wrong kinds": "UPDATE rigs SET faults = '[3]', archetype = 'ZZ'",
    "sheets": "UPDATE sheet_revisions SET text = '{'",
    "an event, no JSON": """UPDATE events SET body = '{' WHERE job_id =
        (SELECT id FROM jobs WHERE number = '0412')""",
    "an event, wrong kind": """UPDATE events SET body = '[]', kind = 'zzz' WHERE job_id =
        (SELECT id FROM jobs WHERE number = '0412')""",
    "an event, an odd time": """UPDATE events SET author = '' WHERE job_id =
        (SELECT id FROM jobs WHERE number = '0412')""",
}


@pytest.mark.parametrize("what", SPOILT)
def test_a_spoilt_row_breaks_one_thing(demo, what):
    demo.rigs.keep(RigTicket("spoilt01", "FB", "nembrio-f7", "seed", {"tap_shut": 0.5}))
    with demo.database.writing() as session:
        for table in ("events", "sheet_revisions"):
            session.execute(text(f"DROP TRIGGER {table}_no_update"))
        session.execute(text(SPOILT[what]))
    demo._settings = None
    with Browser(create_app(demo, "test", list(HOSTS)), raise_server_exceptions=False) as browser:
        fell = [page for page in PAGES + OTHER if browser.get(page).status_code >= 500]
        assert fell == []
        for page in ("/jobs/0412/prove", "/rigs/spoilt01"):
            assert browser.get(page).status_code in (200, 404, 422)
