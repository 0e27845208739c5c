"""A job's file by upload."""

from bottega.app.job.file import export_job


def test_import_by_upload(browser, empty, demo, tmp_path):
    raw = export_job(demo, "0412").model_dump_json().encode()
    there = browser.post(
        "/import", data={"token": browser.token()}, files={"file": ("job.json", raw)}
    )
    assert there.status_code == 409
    cut = browser.post(
        "/import", data={"token": browser.token()}, files={"file": ("job.json", raw[:200])}
    )
    assert cut.status_code == 422
    assert "cut or is not JSON" in cut.text
