"""The notebook of what panels showed that no table has."""

from tests.conftest import new_id

from bottega.app.job.record import record
from bottega.app.panel.strange import strange_codes
from bottega.core.job.events import PanelRead, StateChanged


def test_what_no_table_has_is_kept_with_its_job_and_goes_once_it_is_withdrawn(
    workshop, houseboat, f7
):
    assert strange_codes(workshop, f7) == []
    plug_in = StateChanged(what="power", to="on")
    record(workshop, houseboat, plug_in, "Ilaria Venn", event_id=new_id())
    read = PanelRead(result="codes", shown=((7, 1),), unlisted=("7 1",))
    answer = record(workshop, houseboat, read, "Ilaria Venn", event_id=new_id())
    (found,) = strange_codes(workshop, answer.machine)
    assert (found.shown, found.job, found.photo) == ("7 1", houseboat, "")
    known = next(iter(f7.codes.values()))
    listed = " ".join(map(str, known.record.show))
    own = read.model_copy(update={"unlisted": (listed,), "shown": (known.record.show,)})
    record(workshop, houseboat, own, "Ilaria Venn", event_id=new_id())
    assert listed not in [one.shown for one in strange_codes(workshop, answer.machine)]


def test_a_machine_without_a_sheet_has_no_notebook(workshop, shelf):
    assert strange_codes(workshop, shelf.machine("FB")) == []
