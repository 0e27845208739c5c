"""Write ``rig/values.py``: the values of a machine of physics as typed fields, one a parameter of
``data/rig/parameters.yaml``. Run it with ``python scripts/rig_values.py`` after that file changes.
"""

from pathlib import Path

from bottega.rig.parameters import parameters
from bottega.rig.specimen import FOLLOWS

FILE = Path(__file__).parents[1] / "src" / "bottega" / "rig" / "values.py"
HEAD = '''\
"""The values of a machine of physics: a field a parameter, with its unit in its name. Made by
``scripts/rig_values.py`` from ``data/rig/parameters.yaml``, where each has its source."""

from dataclasses import dataclass

from bottega.rig.by_name import ByName


@dataclass(slots=True)
class Values(ByName):
    """The figures one machine has now."""

'''


def written() -> str:
    """Return the text of the module."""
    fields = "".join(f"    {name}: float\n" for name in (*parameters("FB"), *FOLLOWS))
    return HEAD + fields


if __name__ == "__main__":
    FILE.write_text(written(), encoding="utf-8")
