"""What is tapped or touched on a panel is asked of the server as it was."""

from urllib.parse import parse_qs, urlsplit

from playwright.sync_api import Page, expect

LAMP = """<g><rect tabindex="0" data-lamp-at="{n}" data-name="lamp {n}" data-state="0"
  x="{x}" width="20" height="20" x-on:click="light" x-on:keydown="lighted"></rect></g>"""
FACE = '<svg class="face face-read" data-states="3" width="200" height="40">{}</svg>'
BODY = """<div x-data="panel" x-on:pointerup.window="release"><span data-ask="/ask?x=1"></span>
  <button id="pad" data-lamp="0" x-on:pointerdown="tap" x-on:click="tap">Tap</button>
  <button id="more" x-on:click="another">Another round</button>
  {face}
  <button data-page="0" x-on:click="turn">1</button>
  <button data-page="1" x-on:click="turn">2</button>
  <form><input name="seen_1" value="A1"><input name="seen_2"><button data-keep>Keep</button></form>
  <div data-heard><button data-written="B7" x-on:click="take">B7</button></div></div>"""
ASKED = "/ask*"


def lamps(count: int) -> str:
    return FACE.format("".join(LAMP.format(n=n, x=30 * n) for n in range(count)))


def asked(page: Page, act) -> dict[str, str]:
    with page.expect_request("**/ask*") as seen:
        act()
    query = parse_qs(urlsplit(seen.value.url).query)
    return {name: values[0] for name, values in query.items() if name != "x"}


def test_a_rhythm_is_asked_after_the_silence(written):
    page = written(BODY.format(face=""), {ASKED: "heard"}, clock=True)
    page.clock.pause_at(page.evaluate("Date.now()") + 1000)
    pad = page.locator("#pad")
    box = pad.bounding_box()
    page.mouse.move(box["x"] + 5, box["y"] + 5)
    for pause in (0, 400):
        page.clock.run_for(pause)
        page.mouse.down()
        page.clock.run_for(200)
        page.mouse.up()
    found = asked(page, lambda: page.clock.run_for(1600))
    first, second = (flash.split(":") for flash in found["rhythm"].split(" "))
    assert [first[0], first[1], second[0]] == ["0", "0", "0"]
    expect(page.locator("[data-heard]")).to_have_text("heard")


def test_rounds_are_kept_apart(written):
    page = written("")
    rhythm = page.evaluate(
        """async () => (await import("/static/scripts/panel.js")).rhythmOf(
          [[{lamp: "0", at: 0, lit: 120}, {lamp: "1", at: 500, lit: 90}], [],
           [{lamp: "0", at: 0, lit: 80}]])"""
    )
    assert rhythm == "0:0:120 1:500:90/0:0:80"


def test_lamps_are_lit_blink_and_are_unsure_page_by_page(written):
    page = written(BODY.format(face=lamps(3)), {ASKED: ""})
    lamp = page.locator("[data-lamp-at='1']")
    assert asked(page, lamp.click) == {"lit": "010/???"}
    assert asked(page, lambda: lamp.press("Enter")) == {"lit": "020/???"}
    expect(lamp).to_have_attribute("aria-label", "lamp 1: blinking")
    assert asked(page, lamp.click) == {"lit": "0?0/???"}
    expect(lamp).to_have_attribute("aria-label", "lamp 1: unsure")
    assert asked(page, page.locator("[data-page='1']").click) == {"lit": "0?0/000"}
    expect(page.locator("[data-page='1']")).to_have_attribute("aria-pressed", "true")


def test_a_bar_and_its_tone(written):
    bars = "".join(
        f"""<rect tabindex="0" data-length="{n}" data-state="0" x="{20 * n}" width="18" height="20"
        x-on:click="reach" x-on:keydown="reached"></rect>"""
        for n in range(1, 5)
    )
    tones = '<button data-tone="high" x-on:click="tone">High</button>'
    face = f"{FACE.format(bars)}{tones}"
    page = written(BODY.format(face=face), {ASKED: ""})
    assert asked(page, page.locator("[data-length='3']").click) == {"lit": "?/3"}
    assert asked(page, page.locator("[data-tone]").click) == {"lit": "high/3"}
    assert asked(page, page.locator("[data-length='2']").click) == {"lit": "high/2"}


def test_characters_bar_by_bar(written):
    digit = "".join(
        f"""<rect tabindex="0" data-bar="{bar}" data-state="0" x="{x}" width="18" height="20"
        x-on:click="strike" x-on:keydown="struck"></rect>"""
        for bar, x in zip("abc", (0, 30, 60), strict=True)
    )
    face = FACE.format(f"<g data-digit>{digit}</g><g data-digit></g>")
    page = written(BODY.format(face=face), {ASKED: ""})
    assert asked(page, page.locator("[data-bar=b]").click) == {"bars": "b/"}
    assert asked(page, page.locator("[data-bar=a]").click) == {"bars": "ab/"}
    assert asked(page, page.locator("[data-bar=b]").click) == {"bars": "a/"}
    expect(page.locator("[data-bar=b]")).to_have_attribute("aria-checked", "false")


def test_a_code_taken_goes_into_the_first_free_line(written):
    page = written(BODY.format(face=lamps(1)))
    page.locator("[data-written]").click()
    expect(page.locator("[name=seen_2]")).to_have_value("B7")
    expect(page.locator("[data-keep]")).to_be_focused()
    expect(page.locator("[data-heard]")).to_be_empty()


def test_a_camera_that_is_refused_is_said(written):
    camera = """<div data-camera><button x-on:click="watch">Watch</button><p></p>
      <video hidden></video></div>"""
    page = written(BODY.format(face=camera))
    page.evaluate(
        """() => { Object.defineProperty(navigator, "mediaDevices", {
          value: { getUserMedia: () => Promise.reject(new Error("no")) } }); }"""
    )
    page.get_by_text("Watch").click()
    expect(page.locator("[data-camera] p")).to_contain_text("Tap along instead")
