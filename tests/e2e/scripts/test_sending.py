"""What is on its way is seen to be, and a server that does not answer is told."""

from playwright.sync_api import Route, expect


def test_the_button_pressed_is_busy_until_the_answer_and_trouble_is_told(written):
    page = written('<main id="main"><form hx-post="/kept"><button>Keep</button></form></main>')
    held: list[Route] = []
    page.route("**/kept", lambda route: held.append(route))
    button = page.get_by_role("button")
    button.click()
    expect(button).to_have_attribute("aria-busy", "true")
    held.pop().abort()
    expect(page.locator("#trouble")).to_have_text("No answer.")
    expect(button).not_to_have_attribute("aria-busy", "true")
    button.click()
    expect(page.locator("#trouble")).to_be_empty()
    held.pop().fulfill(body="kept")
    expect(page.locator("form")).to_have_text("kept")


def test_a_large_file_shows_how_much_is_sent(written):
    page = written(
        """<form hx-post="/file" data-sends><button>Send</button><p data-sending hidden>
        <progress max="1"></progress><span data-reading hidden>It is read.</span></p></form>"""
    )
    held: list[Route] = []
    page.route("**/file", lambda route: held.append(route))
    page.get_by_role("button").click()
    expect(page.locator("[data-sending]")).to_be_visible()
    sent = """(loaded) => htmx.trigger(document.querySelector("form"), "htmx:xhr:progress",
      { lengthComputable: true, loaded, total: 100 })"""
    for loaded, value in ((40, 0.4), (20, 0.4), (100, 1)):
        page.evaluate(sent, loaded)
        assert page.locator("progress").evaluate("bar => bar.value") == value
    expect(page.locator("[data-reading]")).to_be_visible()
    held.pop().fulfill(body="")
    expect(page.locator("[data-sending]")).to_be_hidden()


def test_a_form_the_browser_sends_is_shown_to_be_on_its_way(written):
    page = written(
        """<form method="post" action="/slow" target="beside"><button>Send</button></form>
        <iframe name="beside"></iframe>""",
        {"/slow": ""},
    )
    expect(page.locator("#busy")).not_to_have_class("htmx-request")
    page.get_by_role("button").click()
    expect(page.locator("#busy")).to_have_class("htmx-request")
