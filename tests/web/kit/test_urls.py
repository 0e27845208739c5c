"""Addresses are made from names; a name or a value that is missing is said at once."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from starlette.routing import Route

from bottega.web.kit.urls import UnknownAddress, Urls


def nothing():
    pass


URL = Urls.of(Route("/", nothing, name="bench"), Route("/jobs/{number}", nothing, name="job"))


def test_values_go_into_the_path_and_the_rest_into_the_query():
    assert URL("bench") == "/"
    assert URL("job", number="0412") == "/jobs/0412"
    assert URL("job", number="0412", part=None, layer="wires & hoses") == (
        "/jobs/0412?layer=wires+%26+hoses"
    )


def test_what_is_missing_is_said():
    with pytest.raises(UnknownAddress, match="expected one of bench, job"):
        URL("kitchen")
    with pytest.raises(UnknownAddress, match=r"found no value for '/jobs/\{number\}'"):
        URL("job")


@given(st.text(min_size=1, alphabet=st.characters(exclude_categories=["Cs"])))
def test_no_value_leaves_its_place_in_the_path(value):
    made = URL("job", number=value)
    assert made.count("/") == 2
    assert not {"?", "#", " "} & set(made)


@pytest.mark.parametrize(
    ("posted", "page"),
    [
        ("/call/preview", "/call"),
        ("/jobs/0412/prove/reading", "/jobs/0412/prove"),
        ("/jobs/0412/call/event", "/jobs/0412/call"),
        ("/library/FB/nembrio-f7/raw", "/library/FB/nembrio-f7"),
        ("/shop/member", "/shop"),
        ("/import", "/"),
    ],
)
def test_a_page_reloaded_after_a_refusal_is_no_dead_end(reader, posted, page):
    answer = reader.get(posted, follow_redirects=False)
    assert (answer.status_code, answer.headers["location"]) == (303, page)
    assert reader.get(posted).status_code == 200
