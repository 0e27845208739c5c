"""A photo of what the panel showed: kept small, upright and without its place; or refused."""

import io

import pytest
from PIL import Image
from tests.web.job.test_routes import seq

from bottega.app.errors import BadValue
from bottega.app.job.answer import diagnose
from bottega.app.photo.photo import MOST_TAKEN_BYTES, drawn_anew

STRANGE = {"seen_0": "9-9", "result": "unknown"}


def picture(size=(3000, 2000), kind="JPEG", **extra):
    made = io.BytesIO()
    Image.new("RGB", size, "#a94f1d").save(made, kind, **extra)
    return made.getvalue()


def located():
    """A photo that says where it was taken and lies on its side."""
    exif = Image.Exif()
    exif[0x0112] = 6
    exif[0x010F] = "a camera's maker"
    exif.get_ifd(0x8825)[1] = "N"
    return picture(exif=exif.tobytes())


def send(browser, demo, number, raw, **fields):
    data = {
        "token": browser.token(),
        "event_id": f"photo-{len(raw)}-{seq(demo, number)}",
        "seen": seq(demo, number),
        **STRANGE,
        **fields,
    }
    address = f"/jobs/{number}/panel/flashes"
    return browser.post(address, data=data, files={"photo": ("p.jpg", raw)}, follow_redirects=False)


def test_an_unknown_code_is_kept_with_its_photo_in_the_notebook_of_the_model(browser, demo):
    number = "0414"
    assert send(browser, demo, number, located()).status_code == 303
    read = diagnose(demo, number).job.panel
    assert read.unlisted == ("9-9",)
    kept = browser.get(f"/photos/{read.photo}")
    assert kept.headers["content-type"] == "image/jpeg"
    with Image.open(io.BytesIO(kept.content)) as shown:
        assert shown.size == (1067, 1600), "upright, and no longer than needed"
        assert not shown.getexif()
    assert read.photo in browser.get(f"/jobs/{number}/panel").text
    sheet = diagnose(demo, number).machine.sheet
    page = browser.get(f"/library/FB/{sheet}").text
    assert "Shown here, and in no table" in page
    assert read.photo in page
    assert "shows=9-9" in page
    editor = browser.get(f"/library/FB/{sheet}/edit?shows=9-9").text
    assert editor.count('value="9-9"') == 2, "its name and what shows"


def test_a_code_typed_into_the_sheet_leaves_the_notebook(browser, demo):
    number = "0414"
    assert send(browser, demo, number, b"").status_code == 303
    sheet = diagnose(demo, number).machine.sheet
    code = {"code": "9-9", "shows": "9-9", "name": "odd", "reads": "fill", "stored_1": "usually"}
    assert browser.form(f"/library/FB/{sheet}/code", **code).status_code == 303
    assert "Shown here, and in no table" not in browser.get(f"/library/FB/{sheet}").text


@pytest.mark.parametrize(
    ("raw", "said"),
    [
        (b"GIF89a" + b"\0" * 40, "Found no picture"),
        (b"\xff\xd8\xff" + b"\0" * 100, "Found no picture"),
        (picture(kind="GIF"), "expected a photo as JPEG, PNG or WebP"),
        (picture()[:400], "Found no picture"),
        (picture((12_000, 9_000), "PNG"), "expected at most 89 million"),
    ],
    ids=["torn gif", "torn jpeg", "gif", "cut", "huge"],
)
def test_what_is_no_photo_is_refused_and_nothing_is_lost(browser, demo, raw, said):
    answer = send(browser, demo, "0414", raw)
    assert answer.status_code == 422
    assert said in answer.text
    assert 'value="9-9"' in answer.text
    assert diagnose(demo, "0414").job.panel is None


def test_a_photo_of_thirty_megabytes_is_said_to_be_too_large(browser, demo):
    answer = send(browser, demo, "0414", b"\xff" * 30_000_000)
    assert answer.status_code == 413
    assert "of a photo 12 MB" in answer.text
    with pytest.raises(BadValue, match="more than 12 MB"):
        drawn_anew(b"\xff" * (MOST_TAKEN_BYTES + 1))


def test_a_photo_of_many_points_is_refused_before_it_is_drawn(browser, demo):
    """9,000 by 9,000 points at sixteen bits are half a gigabyte once drawn."""
    deep = io.BytesIO()
    Image.new("I;16", (9000, 9000)).save(deep, "PNG")
    answer = send(browser, demo, "0414", deep.getvalue())
    assert answer.status_code == 422
    assert "81 million points, expected at most 40 million unless it is a JPEG" in answer.text
    assert send(browser, demo, "0414", picture((9000, 9000))).status_code == 303


def test_no_such_photo_is_not_found(browser):
    assert browser.get("/photos/" + "0" * 64).status_code == 404
    assert browser.get("/photos/..%2fbottega.db").status_code == 404
