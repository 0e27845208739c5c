"""Items of JSON are counted before it is read: what stands in texts is none."""

import json

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bottega.app.bounds import MOST_DEEP, json_of, refuse_unbounded
from bottega.app.errors import BadValue

LEAVES = st.none() | st.booleans() | st.integers() | st.text(alphabet='a,"[{}]\\é\n')
TREES = st.recursive(
    LEAVES,
    lambda inner: st.lists(inner) | st.dictionaries(st.text(alphabet='b,["\\'), inner),
    max_leaves=30,
)


def items(tree):
    """Return how many brackets open and how many commas stand in a tree, counted on the tree."""
    if not isinstance(tree, list | dict):
        return 0
    inner = list(tree.values()) if isinstance(tree, dict) else tree
    return 1 + max(0, len(inner) - 1) + sum(map(items, inner))


@given(TREES, st.booleans(), st.sampled_from([None, 1]))
def test_exactly_the_items_are_counted(tree, escaped, indent):
    raw = json.dumps(tree, ensure_ascii=escaped, indent=indent).encode()
    count = items(tree)
    refuse_unbounded(raw, count, "file")
    assert json_of(raw, count, "file", "a tree") == tree
    if count:
        with pytest.raises(BadValue, match=f"Found {count} items"):
            refuse_unbounded(raw, count - 1, "file")


@pytest.mark.parametrize("deep", [MOST_DEEP, MOST_DEEP + 1])
def test_depth_is_bounded(deep):
    raw = b"[" * deep + b'"]]]]"' + b"]" * deep
    if deep > MOST_DEEP:
        with pytest.raises(BadValue, match="within each other"):
            refuse_unbounded(raw, 10**6, "file")
    else:
        refuse_unbounded(raw, 10**6, "file")


@pytest.mark.parametrize("raw", ["[1]".encode("utf-16"), '["é"]'.encode("latin-1"), b'{"a": "\\'])
def test_what_is_no_json_in_utf_8_is_said(raw):
    with pytest.raises(BadValue, match="cut or is not JSON"):
        json_of(raw, 100, "file", "a tree")
