"""The key: each archetype is found by answering its own traits, few questions are needed, unknown
traits are refused."""

import pytest

from bottega.core.library.chances import chance
from bottega.core.library.key import UnknownTrait, narrow


def test_beliefs_sum_to_one_and_order_of_answers_does_not_matter(shelf):
    one = narrow(shelf, {"front": True, "belt_back": True})
    other = narrow(shelf, {"belt_back": True, "front": True})
    assert sum(p for _, p in one.archetypes) == pytest.approx(1)
    assert dict(one.archetypes) == pytest.approx(dict(other.archetypes))


@pytest.mark.parametrize("name", ["FB", "FD", "FI", "SL", "TD", "TG", "TS", "WD"])
def test_asking_the_most_telling_trait_finds_each_archetype_in_six(shelf, name):
    seen: dict[str, bool] = {}
    for _ in range(6):
        narrowed = narrow(shelf, seen)
        if narrowed.sure or not narrowed.questions:
            break
        trait = narrowed.questions[0].trait
        seen[trait] = chance(shelf.archetypes[name].traits[trait], shelf.tables.words) > 0.5
    assert narrow(shelf, seen).archetypes[0][0] == name


def test_every_trait_is_said_of_every_archetype(shelf):
    for record in shelf.archetypes.values():
        assert set(record.traits) == set(shelf.tables.traits.traits)


def test_an_unknown_trait_is_refused(shelf):
    with pytest.raises(UnknownTrait, match="wings"):
        narrow(shelf, {"wings": True})
