"""How a state is told on a machine of physics."""

import pytest
from pydantic import ValidationError

from bottega.core.library.recipe import RigRecipe

LOOK = {
    "look": {"blocked": {"open_share": [0, 0.2]}, "lint": {"lint_share": [0.5, 1]}, "clear": {}}
}


@pytest.mark.parametrize(
    ("open_share", "lint_share", "state"),
    [(0.1, 0.9, "blocked"), (0.2, 0.0, "blocked"), (0.6, 0.5, "lint"), (0.6, 0.1, "clear")],
)
def test_the_first_case_whose_spans_all_hold_is_told(open_share, lint_share, state):
    recipe = RigRecipe.model_validate(LOOK)
    assert recipe.act == "look"
    assert recipe.told({"open_share": open_share, "lint_share": lint_share}) == state


def test_a_state_may_be_meant_one_way_or_another_and_no_case_may_hold():
    cases = {"up": [{"db": [0, 30]}, {"nm": [1, 9]}]}
    recipe = RigRecipe.model_validate({"act": "listen", "run": "drain", "cases": cases})
    assert recipe.told({"db": 50, "nm": 2}) == "up"
    assert recipe.told({"db": 50, "nm": 0}) is None
    with pytest.raises(KeyError):
        recipe.told({"db": 50})


def test_a_checks_recipe_adds_to_that_of_its_effect_or_stands_alone():
    effect = RigRecipe.model_validate(LOOK)
    warm = RigRecipe(provoke="warm").over(effect)
    assert (warm.act, warm.cases, warm.provoke) == ("look", effect.cases, "warm")
    measured = RigRecipe.model_validate({"measure": ["pump.1", "pump.2"]})
    assert measured.over(effect) is measured
    assert measured.points == ("pump.1", "pump.2")


@pytest.mark.parametrize(
    ("written", "found"),
    [
        ({"measure": []}, "no test points"),
        ({"act": "social"}, "no reason"),
        ({"act": "look"}, "no cases"),
        ({"listen": {"loud": {}}}, "nothing to run"),
        ({"look": {"a": {}}, "turn": {"a": {}}}, "the acts look, turn"),
        ({"look": {"a": {"x": [2, 1]}}}, "from 2.0 to 1.0 for a"),
        ({"look": {"a": {}}, "smell": 1}, "smell"),
    ],
)
def test_a_recipe_that_cannot_be_done_is_refused(written, found):
    with pytest.raises(ValidationError, match=found):
        RigRecipe.model_validate(written)
