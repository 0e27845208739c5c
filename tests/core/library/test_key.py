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


def test_every_trait_of_the_kind_is_said_of_every_archetype_and_of_the_platform_by_every_sheet(
    shelf,
):
    traits = shelf.tables.traits.traits
    platform = {name for name, trait in traits.items() if trait.platform}
    for record in shelf.archetypes.values():
        assert set(record.traits) == set(traits) - platform
    for sheet in shelf.sheets:
        assert set(shelf.sheet(sheet).traits) == platform


MODELS = [
    *("calvessa-dritta-8", "nembrio-f7", "nembrio-f7-white", "nembrio-f9", "ostrel-linea-t"),
    *("pellandra-400", "quernia-compatta-5", "sestra-torre", "torvane-alta-10"),
    "virgola-asciutta-7",
]


@pytest.mark.parametrize("sheet", MODELS)
def test_a_model_is_found_by_the_traits_of_its_platform_in_twelve(shelf, sheet):
    record, seen = shelf.sheet(sheet), {}
    said = {**shelf.archetypes[record.archetype].traits, **record.traits}
    for _ in range(12):
        narrowed = narrow(shelf, seen)
        if narrowed.settled or not narrowed.questions:
            break
        trait = narrowed.questions[0].trait
        seen[trait] = chance(said[trait], shelf.tables.words) > 0.5
    found = narrow(shelf, seen)
    assert found.archetypes[0][0] == record.archetype
    assert found.sheets[0][0] == sheet
    assert found.sheets[0][1] > 0.5


def test_kinds_and_models_are_one_belief(shelf):
    found = narrow(shelf, {"front": True, "pump_twists": True, "digits": False})
    assert sum(share for _, share in found.archetypes) == pytest.approx(1)
    kinds = dict(found.archetypes)
    for archetype in shelf.archetypes:
        own = [p for s, p in found.sheets if shelf.sheets[s].archetype == archetype]
        assert sum(own) <= kinds[archetype] + 1e-9


def test_an_unknown_trait_is_refused(shelf):
    with pytest.raises(UnknownTrait, match="wings"):
        narrow(shelf, {"wings": True})
