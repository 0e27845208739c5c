"""The house keeps to its counts: names that stand for one thing, constants of one value, and in the
rig no more bare numbers and string keys than there were."""

import importlib.util
from pathlib import Path

import pytest

SCRIPT = Path(__file__).parents[1] / "scripts" / "house.py"
spec = importlib.util.spec_from_file_location("house", SCRIPT)
house = importlib.util.module_from_spec(spec)
spec.loader.exec_module(house)


@pytest.mark.parametrize("row", house.table(), ids=lambda row: row.name)
def test_no_count_is_above_what_it_may_be(row):
    assert row.figure <= row.most, "\n".join(row.counted)


def test_what_is_counted_would_be_found(tmp_path):
    trees = {
        Path("web/one.py"): house.ast.parse("class Way:\n    pass\nSURE = 1"),
        Path("web/two.py"): house.ast.parse("class Way:\n    pass\nSURE, LESS = 2, 3"),
        Path("rig/three.py"): house.ast.parse("def f(v):\n    return v['a'] * 17 + 1"),
    }
    assert len(house._shared_classes(trees)) == 2
    assert house._many_values(trees) == ("web.SURE: 1 in web/one.py, 2 in web/two.py",)
    assert list(house._keys(trees)) == ["rig/three.py:2 'a'"]
    assert list(house._bare(trees)) == ["rig/three.py:2 17"]
