"""A token says who notes."""

from tests.conftest import new_id
from tests.web.api.test_author import events_of, note

from bottega.app.shop.tokens import token_for

CALL = {"machine": "nembrio-f7", "age_years": 5, "place": "Quay"}


def test_a_token_says_who_notes(browser, demo):
    member = demo.members[-1].name
    headers = {"authorization": f"Bearer {token_for(demo, 'test', member)}"}
    assert browser.post("/api/v1/jobs/0412/events", json=note(), headers=headers).status_code == 201
    assert events_of(demo)[-1].author == member
    opened = {"event_id": new_id(), "opened": CALL}
    made = browser.post("/api/v1/jobs", json=opened, headers=headers)
    assert events_of(demo, made.json()["number"])[0].author == member


def test_a_token_of_another_shop_or_of_no_member_is_refused(browser, demo, workshop):
    foreign = token_for(demo, "another secret", demo.members[0].name)
    stranger = token_for(workshop, "test", "Ilaria Venn")
    known = {member.name for member in demo.members}
    for token in [foreign, *([stranger] if "Ilaria Venn" not in known else [])]:
        headers = {"authorization": f"Bearer {token}"}
        answer = browser.post("/api/v1/jobs/0412/events", json=note(), headers=headers)
        assert answer.status_code == 401
