"""The table of event kinds: every kind of the log stands in it, once, with all its columns."""

from typing import get_args

import pytest

from bottega.core.job import events
from bottega.core.job.events import AnyBody
from bottega.core.job.kinds import KINDS, kind_of

BODIES = get_args(get_args(AnyBody)[0])


def test_every_body_of_the_log_has_its_row():
    assert {kind.body for kind in KINDS.values()} == set(BODIES)
    assert all(name == kind.body.model_fields["kind"].default for name, kind in KINDS.items())


@pytest.mark.parametrize("body", BODIES, ids=lambda body: body.__name__)
def test_a_row_is_found_by_its_body_and_says_what_undoing_means(body):
    kind = kind_of(body.model_construct())
    assert kind.body is body
    assert kind.undo
    assert kind.version >= 1


def test_no_two_kinds_fold_or_tell_each_others_bodies():
    telling = [kind.tell for kind in KINDS.values()]
    assert len(set(telling)) == len(telling)
    assert events.Noted.model_fields["kind"].default in KINDS
