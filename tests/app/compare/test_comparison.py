"""Two machines side by side, or before and after."""

from bottega.app.compare.comparison import before_and_after, side_by_side
from bottega.app.job.answer import diagnose


def test_before_and_after_hold_the_repeated_check_side_by_side(shop):
    found = before_and_after(diagnose(shop, "0397"))
    lines = {line.name: line for group in found.groups for line in group.lines}
    rotor = lines["Turn the pump rotor by hand"]
    assert rotor.differs
    assert rotor.left.startswith("Turns freely")
    assert rotor.right.startswith("Steps")
    assert lines["Likeliest fault"].right == "nothing stands out"


def test_two_machines_side_by_side_name_both(shop):
    found = side_by_side(diagnose(shop, "0403"), diagnose(shop, "0409"))
    assert (found.left, found.right) == ("Job 0403", "Job 0409")
    assert [group.name for group in found.groups][:2] == ["Verdict", "Codes"]
    codes = found.groups[1].lines[0]
    assert codes.left == "no code stored"
    assert "position signal" in codes.right
    assert codes.differs
