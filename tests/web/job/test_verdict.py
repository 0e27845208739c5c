"""One verdict: whatever was noted, the bench, Decide, the report and programs say the same."""

import re
from html import unescape
from random import Random

import pytest
from tests.conftest import new_id
from tests.core.job.test_rules import KINDS
from tests.web.conftest import seq
from tests.web.job.test_watch import taken

from bottega.app.decide.verdict import verdict_of
from bottega.app.job.answer import diagnose
from bottega.app.job.record import new_event
from bottega.core.job.events import Checked, Repaired
from bottega.core.job.kinds import possible
from bottega.core.job.refusal import JobRefusal

NOTED = 5
"""Entries of a job: checks with any outcome at all, repairs in between."""


def text_of(page):
    return unescape(re.sub(r"\s+", " ", re.sub(r"<[^>]+>", " ", page)))


def noted(demo, number, rng):
    """Note one thing that can have been, drawn at random."""
    answer = diagnose(demo, number)
    checks = [c for c in answer.machine.checks.values() if c.measure is None and not c.watches]
    for _ in range(40):
        check = rng.choice(checks)
        body = Checked(check=check.id, outcome=rng.choice(check.outcomes).id)
        if rng.random() < 1 / 8:
            body = Repaired(repair=rng.choice(list(answer.machine.repairs)))
        try:
            possible(answer.job, answer.machine, body)
        except JobRefusal:
            continue
        event = new_event(demo, body, "Ilaria Venn", new_id())
        demo.log.append(number, event, seq(demo, number))
        return


@pytest.mark.parametrize("kind", KINDS)
def test_every_screen_says_the_one_verdict(browser, demo, kind):
    number, rng = taken(demo, kind), Random(kind)
    for _ in range(NOTED):
        noted(demo, number, rng)
        answer = diagnose(demo, number)
        verdict = verdict_of(answer, demo.settings.prove_at)
        asked = browser.get(f"/api/v1/jobs/{number}/diagnosis").json()
        assert asked["verdict"]["title"] == verdict.title
        decide = text_of(browser.get(f"/jobs/{number}/decide").text)
        assert verdict.title in decide
        report = text_of(browser.get(f"/jobs/{number}/report").text)
        assert verdict.customer in report
    bench = text_of(browser.get("/").text)
    cards = [bench[at.start() :][:400] for at in re.finditer(number, bench)]
    assert any(verdict.title in card for card in cards)
