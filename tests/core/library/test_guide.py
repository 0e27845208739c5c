"""The guide's examples are run, and every field of the records is explained in it."""

import re
import shutil
from pathlib import Path

import pytest

from bottega.core.library import archetype, records, sheet
from bottega.core.library.consistency import check_library
from bottega.core.library.shelf import DATA, read_shelf
from bottega.core.library.yamlfile import parse_yaml

GUIDE = (Path(__file__).parents[3] / "docs" / "library.md").read_text(encoding="utf-8")
EXAMPLES = re.findall(r"```yaml (\w+)\n(.*?)```", GUIDE, flags=re.DOTALL)


@pytest.fixture(scope="module")
def shelf_with_examples(tmp_path_factory):
    folder = tmp_path_factory.mktemp("guide")
    for sub in ("assemblies", "archetypes", "sheets", "on_rig", "wiring", "tables"):
        shutil.copytree(DATA / sub, folder / sub)
    sections: dict[str, str] = {}
    for kind, text in EXAMPLES:
        if kind not in ("sheet", "on_rig", "wiring"):
            sections[kind] = sections.get(kind, "") + "".join(
                f"  {line}\n" for line in text.splitlines()
            )
    body = "assembly: tray\nname: Drip tray\n" + "".join(
        f"{kind}:\n{text}" for kind, text in sections.items()
    )
    (folder / "assemblies" / "tray.yaml").write_text(body, encoding="utf-8")
    for kind, text in EXAMPLES:
        if kind == "on_rig":
            recipes = f"assembly: tray\n{text}"
            (folder / "on_rig" / "tray.yaml").write_text(recipes, encoding="utf-8")
        if kind == "wiring":
            ways = "".join(f"  {line}\n" for line in text.splitlines())
            (folder / "wiring" / "tray.yaml").write_text(
                f"assembly: tray\nways:\n{ways}", encoding="utf-8"
            )
        if kind == "sheet":
            name = parse_yaml(text.encode(), "example.yaml").data["sheet"]
            (folder / "sheets" / f"{name}.yaml").write_text(text, encoding="utf-8")
    front = folder / "archetypes" / "FB.yaml"
    text = front.read_text(encoding="utf-8").replace("motor_universal]", "motor_universal, tray]")
    front.write_text(
        text.replace("places:\n", "places:\n  drip_tray: {x: 308, y: 388}\n", 1), encoding="utf-8"
    )
    return read_shelf(folder)


def test_every_kind_of_record_has_an_example():
    kinds = {kind for kind, _ in EXAMPLES}
    assert kinds == {
        "components",
        "effects",
        "faults",
        "checks",
        "complaints",
        "marks",
        "details",
        "operations",
        "on_rig",
        "out",
        "service",
        "sheet",
        "wiring",
    }


def test_the_examples_load_fit_and_are_whole(shelf_with_examples):
    machine = shelf_with_examples.machine("FB", "corvo-lento")
    assert machine.faults["float_stuck"].component == "drip_tray"
    assert machine.checks["measure_float"].measure.bands["open"] == "up"
    assert machine.marks["wet_tray"].shows == 1
    assert machine.operations["tray_out"].after == ("base_cover",)
    assert machine.service["step_float"].answers == "look_float"
    assert machine.codes["2-5"].effect == "fill"
    assert machine.wiring["float_coil"].between == ("float.1", "float.2")
    assert machine.wiring["element_back"].is_ == "contact"
    assert machine.checks["look_float"].on_rig.act == "turn"
    assert machine.checks["listen_tray"].on_rig.run == "drain"
    assert check_library(shelf_with_examples) == []


@pytest.mark.parametrize(
    "record",
    [
        records.Component,
        records.FaultRecord,
        records.CheckRecord,
        records.MeasureRecord,
        records.ComplaintRecord,
        records.MarkRecord,
        records.OperationRecord,
        records.ServiceStep,
        archetype.ArchetypeFile,
        sheet.SheetFile,
        sheet.PanelRecord,
    ],
)
def test_every_field_appears_in_the_guide(record):
    quiet = {
        "name",
        "about",
        "drawing",
        "no_fault_weight",
        "new_price_eur",
        "life_years",
        "low",
        "high",
        "unit",
        "stop",
        "steps",
        "caution",
        "service",
        "bands",
        "calibration",
        "unreadable",
    }
    missing = [
        name
        for name in record.model_fields
        if name not in quiet and not re.search(rf"\b{name}\b", GUIDE)
    ]
    assert missing == []


def test_the_likelihood_words_are_those_of_the_table():
    table = parse_yaml((DATA / "tables" / "words.yaml").read_bytes(), "words.yaml").data["words"]
    for word, value in table.items():
        assert f"`{word}` {value}" in GUIDE
