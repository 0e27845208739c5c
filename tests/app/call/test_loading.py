"""What to load for a visit."""

from bottega.app.call.loading import loading
from bottega.app.job.answer import diagnose


def test_what_to_load_for_the_houseboat(workshop, houseboat):
    load = loading(workshop, diagnose(workshop, houseboat))
    assert (load.parts[0].name, load.parts[0].number) == ("drain pump", "NB-4410-2")
    assert "flat tray and cloth" in load.tools
    assert load.band[0] < load.band[1]
