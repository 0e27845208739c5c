"""A lamp is told from the room's light and from noise."""

import math
import random

RUN = """async (levels) => {
  const { Glow } = await import("/static/scripts/camera.js");
  const glow = new Glow();
  return levels.map((level) => glow.see(level));
}"""


def changes(page, levels):
    return [(n, seen) for n, seen in enumerate(page.evaluate(RUN, levels)) if seen]


def test_a_lamp_over_a_drifting_room_changes_as_often_as_it_does(written):
    noise = random.Random(4)
    lit = [n % 30 >= 15 for n in range(240)]
    levels = [
        60 + 8 * math.sin(n / 40) + 90 * on + noise.uniform(-6, 6) for n, on in enumerate(lit)
    ]
    seen = changes(written(""), levels)
    assert seen == [(n, "lit" if n % 30 else "dark") for n in range(15, 240, 15)]


def test_noise_alone_is_no_lamp(written):
    noise = random.Random(5)
    assert changes(written(""), [80 + noise.uniform(-10, 10) for _ in range(400)]) == []


def test_the_brightness_of_a_spot_is_its_mean(written):
    page = written('<canvas width="240" height="120"></canvas>')
    bright = page.evaluate(
        """async () => {
          const { brightness, pen } = await import("/static/scripts/camera.js");
          const canvas = document.querySelector("canvas"), face = canvas.getContext("2d");
          face.fillStyle = "rgb(30 60 90)";
          face.fillRect(0, 0, 240, 120);
          face.fillStyle = "rgb(200 200 200)";
          face.fillRect(120, 0, 120, 120);
          canvas.videoWidth = 240; canvas.videoHeight = 120;
          return [0.25, 0.75].map((x) => brightness(pen(), canvas, [x, 0.5]));
        }"""
    )
    assert [round(value) for value in bright] == [60, 200]
