"""Photos are kept once, whole, or not at all."""

from concurrent.futures import ThreadPoolExecutor

from tests.web.job.test_photo import picture, send

from bottega.store.photos import Photos, copy_photos, name_of


def test_a_photo_is_kept_once_and_copied_with_the_shop(tmp_path):
    photos = Photos(tmp_path)
    name = name_of(b"one")
    assert [photos.keep(b"one"), photos.keep(b"one")] == [True, False]
    assert len(list((tmp_path / "photos").iterdir())) == 1
    assert copy_photos(tmp_path / "photos", tmp_path / "copy.db.photos") == 1
    assert copy_photos(tmp_path / "photos", tmp_path / "copy.db.photos") == 0
    assert (tmp_path / "copy.db.photos" / name).read_bytes() == b"one"
    assert copy_photos(tmp_path / "nowhere", tmp_path / "there") == 0
    for other in ("../bottega.db", "x", name.upper(), ""):
        assert photos.read(other) is None


def test_one_photo_kept_by_many_at_once_is_kept_and_nobody_is_told_of_a_full_disk(tmp_path):
    photos, raw = Photos(tmp_path), picture()
    with ThreadPoolExecutor(8) as pool:
        new = list(pool.map(photos.keep, [raw] * 40))
    assert any(new)
    assert [file.name for file in (tmp_path / "photos").iterdir()] == [name_of(raw)]
    assert photos.read(name_of(raw)) == raw


def test_a_folder_that_cannot_be_written_is_called_so(browser, demo, tmp_path):
    (tmp_path / "photos").write_text("a file where the folder should be")
    demo.photos = Photos(tmp_path)
    answer = send(browser, demo, "0414", picture())
    assert answer.status_code == 503
    assert "The data folder cannot be written to" in answer.text


def test_a_disk_without_room_under_a_photo_is_said_and_nothing_is_lost(
    browser, demo, monkeypatch, tmp_path
):
    def full(*_):
        raise OSError(28, "No space left on device")

    demo.photos = Photos(tmp_path)
    monkeypatch.setattr("bottega.store.photos.os.replace", full)
    answer = send(browser, demo, "0414", picture())
    assert answer.status_code == 507
    assert 'value="9-9"' in answer.text
    assert list((tmp_path / "photos").iterdir()) == []
