"""A part turned by hand follows the laws of a spring that pulls against a torque."""

import pytest
from playwright.sync_api import expect

TURN = """async ([nm, turns]) => {
  const { Handwheel } = await import("/static/scripts/handwheel.js");
  const wheel = new Handwheel();
  wheel.paint = () => {};
  wheel.$root = document.createElement("div");
  wheel.$root.dataset.nm = JSON.stringify(nm);
  wheel.init();
  return turns.map((by) => {
    wheel.turn(by);
    return [wheel.hand, wheel.part_degrees, wheel.steps];
  });
}"""


def turned(page, nm, turns):
    return page.evaluate(TURN, [nm, turns])


@pytest.mark.parametrize("nm", [0.02, 0.5, 3.0])
def test_even_friction_keeps_the_part_one_stretch_behind(written, nm):
    """Hooke's law: the spring is made to hold the torque when stretched by 18 degrees."""
    hand, part, steps = turned(written(""), [nm] * 36, [5] * 40)[-1]
    assert hand - part == pytest.approx(18, abs=1)
    assert steps == 0


def test_it_holds_back_backwards_as_forwards_where_there_are_no_steps(written):
    states = turned(written(""), [0.5] * 36, [5] * 20 + [-5] * 40)
    hand, part, _ = states[-1]
    assert part - hand == pytest.approx(18, abs=1)


def test_a_detent_is_felt_as_one_step_each(written):
    """Four narrow humps a turn: the hand winds up at each and the part jumps over it."""
    hump = [0.05] * 8 + [1.0]
    hand, _, steps = turned(written(""), hump * 4, [5] * 76)[-1]
    assert hand == 380
    assert steps == 4


def test_it_tells_where_it_stands(written):
    page = written(
        """<div x-data="handwheel" data-nm="[0.5, 0.5]"><p x-text="told"></p>
        <svg tabindex="0" width="100" height="100" x-on:keydown="key($event)"
          x-on:pointerdown="take($event)" x-on:pointermove="drag($event)" x-on:pointerup="let()">
        <circle r="40" cx="50" cy="50" data-part></circle><g data-hand></g></svg></div>"""
    )
    svg = page.locator("svg")
    for _ in range(8):
        svg.press("ArrowRight")
    expect(page.locator("p")).to_have_text("22°, 0 steps felt, hand 18° ahead")
    expect(svg).to_have_attribute("aria-valuenow", "22")
    box = svg.bounding_box()
    middle = (box["x"] + 50, box["y"] + 50)
    page.mouse.move(middle[0], middle[1] - 40)
    page.mouse.down()
    page.mouse.move(middle[0] + 40, middle[1])
    page.mouse.up()
    expect(page.locator("p")).to_have_text("112°, 0 steps felt, hand 0° ahead")
