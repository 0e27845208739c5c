"""A job with its photos as one file: out and in again, and what is not believed."""

import io
import json
import zipfile
from hashlib import sha256

import pytest
from PIL import Image
from tests.app.steps import note
from tests.conftest import Clock, new_id

from bottega.app.errors import BadValue, Refused, Stale
from bottega.app.job.answer import diagnose
from bottega.app.job.bundle import bundle, photos_in, unpacked
from bottega.app.job.file import export_job, import_job
from bottega.app.job.with_photo import record_with_photo
from bottega.app.workshop import open_workshop
from bottega.core.job.events import TookOff

MOST = 2_000_000


def camera(exif=True, size=(900, 600)) -> bytes:
    """Return a picture as a phone takes it, with its maker's notes."""
    picture, raw = Image.effect_noise(size, 60).convert("RGB"), io.BytesIO()
    notes = Image.Exif()
    notes[0x010F] = "Somebody's phone"
    picture.save(raw, "JPEG", **({"exif": notes} if exif else {}))
    return raw.getvalue()


@pytest.fixture
def taken(workshop, houseboat):
    """A job with one photo; returns its file as a zip, and the photo's name."""
    note(workshop, houseboat, kind="state_changed", what="water", to="out")
    name = photographed(workshop, houseboat, "filter_flap", camera())
    return bundle(workshop, export_job(workshop, houseboat)), name


def photographed(workshop, number, operation, raw, *, seen=None, event_id=None):
    """Note what came off with its photo; return the photo's name."""
    seen = workshop.log.seq(number) if seen is None else seen
    body = TookOff(operation=operation)
    before, named = diagnose(workshop, number), event_id or new_id()
    answer = record_with_photo(workshop, before, body, raw, author="Ida", event_id=named, seen=seen)
    return answer.job.events[-1].body.photo


def boundless(photo: bytes) -> bytes:
    """Return a photo whose head says that it is 65,000 points wide and high (JPEG, ITU-T T.81,
    B.2.2: height and width follow the marker SOF0 by five bytes)."""
    at = photo.index(b"\xff\xc0") + 5
    return photo[:at] + (65_000).to_bytes(2, "big") * 2 + photo[at + 4 :]


def spoilt(raw: bytes) -> bytes:
    """Return a zip whose packed content is overwritten."""
    return raw[:60] + b"\xff" * 40 + raw[100:]


def packed(how: int = zipfile.ZIP_DEFLATED, /, **files: bytes) -> bytes:
    raw = io.BytesIO()
    with zipfile.ZipFile(raw, "w", how) as out:
        for name, content in files.items():
            out.writestr(name, content)
    return raw.getvalue()


def test_a_job_comes_in_with_its_photos(workshop, houseboat, taken):
    raw, name = taken
    assert photos_in(export_job(workshop, houseboat)) == [name]
    other = open_workshop(None, Clock())
    number = import_job(other, raw).number
    (drawn,) = photos_in(export_job(other, number))
    with Image.open(io.BytesIO(other.photos.read(drawn))) as picture:
        assert picture.size == (900, 600)
    again = open_workshop(None, Clock())
    assert import_job(again, bundle(other, export_job(other, number))).number == number
    again.close()
    assert sorted(zipfile.ZipFile(io.BytesIO(raw)).namelist()) == ["job.json", f"photos/{name}.jpg"]
    other.close()


def test_a_photo_nobody_speaks_of_is_not_kept(taken):
    raw, _ = taken
    plain = camera(exif=False, size=(40, 30))
    stray = sha256(plain).hexdigest()
    grown = io.BytesIO(raw)
    with zipfile.ZipFile(grown, "a") as out:
        out.writestr(f"photos/{stray}.jpg", plain)
    other = open_workshop(None, Clock())
    import_job(other, grown.getvalue())
    assert other.photos.read(stray) is None
    other.close()


@pytest.mark.parametrize(
    ("change", "words"),
    [
        (lambda job, photo: b"PK\x03\x04 and no more", "cut, locked"),
        (lambda job, photo: packed(**{"photos/a.jpg": photo}), "0 times job.json"),
        (lambda job, photo: packed(**{"job.json": job, "../evil": b"x"}), "expected job.json"),
        (lambda job, photo: packed(**{"job.json": job, "photos/a.jpg": photo}), "changed"),
        (lambda job, photo: packed(**{"job.json": b" " * (MOST + 1)}), "expected at most"),
        (lambda job, photo: packed(**{"job.json": job, "photos/b.jpg": bytes(5_000_000)}), "bytes"),
        (lambda job, photo: lying(job), "cut, locked"),
        (lambda job, photo: packed(**{f"photos/{n}": b"" for n in range(5000)}), "found 5000 entr"),
        (lambda job, photo: packed(**{"job.json": job, **named(b"GIF89a")}), "no picture"),
        (
            lambda job, photo: packed(**{"job.json": job, **named(boundless(photo))}),
            "too many points",
        ),
        (lambda job, photo: spoilt(packed(**{"job.json": job})), "cut, locked"),
        (lambda job, photo: packed(zipfile.ZIP_BZIP2, **{"job.json": job}), "another way"),
        (
            lambda job, photo: packed(
                **{"job.json": job, **{f"photos/{n}": b"" for n in range(130)}}
            ),
            "expected at most",
        ),
    ],
)
def test_what_is_no_job_with_photos_is_refused(taken, change, words):
    raw, name = taken
    inside = zipfile.ZipFile(io.BytesIO(raw))
    other = open_workshop(None, Clock())
    with pytest.raises(BadValue, match=words):
        import_job(other, change(inside.read("job.json"), inside.read(f"photos/{name}.jpg")))
    assert other.log.numbers() == []
    other.close()


def test_a_photo_of_a_file_is_drawn_anew_as_those_that_are_taken(taken, workshop):
    """What a camera wrote into it of where and when does not come in by a file either."""
    raw, name = taken
    inside = zipfile.ZipFile(io.BytesIO(raw))
    job, told = inside.read("job.json"), camera()
    renamed = job.replace(name.encode(), sha256(told).hexdigest().encode())
    other = open_workshop(None, Clock())
    number = import_job(other, packed(**{"job.json": renamed, **named(told)})).number
    (drawn,) = photos_in(export_job(other, number))
    with Image.open(io.BytesIO(other.photos.read(drawn))) as picture:
        assert not picture.getexif()
    assert b"Somebody" not in other.photos.read(drawn)
    other.close()


def test_a_refused_entry_leaves_no_photo_and_a_stale_one_is_not_even_drawn(
    workshop, houseboat, monkeypatch
):
    with pytest.raises(Refused):
        photographed(workshop, houseboat, "tub_halves", camera())
    with pytest.raises(BadValue, match="no picture"):
        photographed(workshop, houseboat, "filter_flap", b"GIF89a")
    assert workshop.photos._held == {}
    monkeypatch.setattr("bottega.app.job.with_photo.drawn_anew", lambda raw: pytest.fail("drawn"))
    with pytest.raises(Stale):
        photographed(workshop, houseboat, "filter_flap", camera(), seen=0)


def test_a_photo_another_entry_speaks_of_stays_where_one_is_refused(workshop, houseboat, taken):
    raw = workshop.photos.read(taken[1])
    monkey = camera()
    assert monkey != raw
    with pytest.raises(Refused):
        photographed(workshop, houseboat, "filter_flap", camera())
    assert workshop.photos.read(taken[1]) == raw


def test_a_job_takes_no_more_photos_than_its_file(workshop, houseboat, taken, monkeypatch):
    monkeypatch.setattr("bottega.app.job.with_photo.MOST_PHOTOS", 1)
    with pytest.raises(BadValue, match="expected at most 1"):
        photographed(workshop, houseboat, "filter_cap", camera())
    monkeypatch.setattr("bottega.app.job.with_photo.MOST_PHOTOS", 9)
    monkeypatch.setattr("bottega.app.job.with_photo.MOST_PHOTO_BYTES", 1000)
    with pytest.raises(BadValue, match="do not fit into its file"):
        photographed(workshop, houseboat, "filter_cap", camera())


def lying(job: bytes) -> bytes:
    """Return a zip whose photo says that it has a hundred bytes and holds forty million."""
    raw = bytearray(packed(**{"job.json": job, "photos/a.jpg": bytes(40_000_000)}))
    for head, place in ((b"PK\x03\x04", 22), (b"PK\x01\x02", 24)):
        at = raw.index(head, raw.index(head) + 1)
        raw[at + place : at + place + 4] = (100).to_bytes(4, "little")
    return bytes(raw)


def named(photo: bytes) -> dict[str, bytes]:
    """Return a photo by the name it would have."""
    return {f"photos/{sha256(photo).hexdigest()}.jpg": photo}


def test_what_unpacks_to_too_much_is_not_unpacked():
    bomb = packed(**{"job.json": json.dumps(["x"]).encode(), "photos/a.jpg": bytes(40_000_000)})
    assert len(bomb) < 100_000
    with pytest.raises(BadValue, match="unpacks to more"):
        unpacked(bomb, MOST)
