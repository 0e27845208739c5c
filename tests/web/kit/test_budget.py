"""The budget of requests: so many at once, the slow ones written down, and memory let go."""

import logging

from bottega.app.job.answer import diagnose
from bottega.web.kit import budget


def test_of_too_many_at_once_the_rest_is_sent_away_in_words(reader):
    counted = reader.app.state.budget
    counted.waiting = budget.MOST_WAITING
    answer = reader.get("/")
    assert answer.status_code == 503
    assert f"expected at most {budget.MOST_WAITING}" in answer.text
    assert reader.get("/static/app.css").status_code == 200
    counted.waiting = 0
    assert reader.get("/").status_code == 200
    assert counted.waiting == 0


def test_a_request_that_fails_is_counted_no_more(browser):
    assert browser.get("/jobs/9999/prove").status_code == 404
    assert browser.post("/shop", data={"token": "wrong"}).status_code == 403
    assert browser.app.state.budget.waiting == 0


def test_a_slow_answer_is_written_down_with_its_address(reader, monkeypatch, caplog):
    monkeypatch.setattr(budget, "MOST_S", -1.0)
    with caplog.at_level(logging.WARNING):
        reader.get("/shop")
    assert "slow: GET /shop took" in caplog.text


def test_memory_beyond_the_budget_lets_go_of_what_can_be_worked_out_again(
    browser, demo, monkeypatch
):
    monkeypatch.setattr(budget, "LOOKED_EVERY", 1)
    diagnose(demo, "0412")
    assert len(demo.answers) > 0
    assert budget.memory_bytes() > 1_000_000
    browser.app.state.budget._most_bytes = 1
    browser.get("/shop")
    assert len(demo.answers) == 0
    diagnose(demo, "0412")
    browser.get("/shop")
    assert len(demo.answers) > 0, "let go once, and not after every request from then on"


def test_where_nobody_says_how_much_memory_there_is_nothing_is_let_go(monkeypatch, tmp_path):
    monkeypatch.setattr(budget, "STATM", tmp_path / "none")
    assert budget.memory_bytes() == 0
