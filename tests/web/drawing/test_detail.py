"""Enlarged details: every fault that has one is hatched at a spot the drawing really has."""

import re
from math import hypot

import pytest

from bottega.app.job.answer import diagnose
from bottega.core.diagnosis.words import suspicion
from bottega.web.drawing.detail import LEAST, detail_of
from bottega.web.kit.page import ROOMS

DRAWINGS = ROOMS / "drawing" / "details"
NOT_PARTS = {"use", "place_site", "feet"}
"""What can be at fault and is nothing to cut open."""


def source_of(name):
    text = (DRAWINGS / f"{name}.svg").read_text()
    shared = re.findall(r'include "drawing/details/(\w+)\.svg"', text)
    return text + "".join(source_of(other) for other in shared)


def test_every_spot_of_the_library_is_drawn_and_nothing_else(shelf):
    records = {n: d for a in shelf.assemblies.values() for n, d in a.details.items()}
    assert {path.stem for path in DRAWINGS.glob("[a-z]*.svg")} == set(records)
    assert len(records) >= 16
    for name, detail in records.items():
        text = source_of(name)
        assert set(re.findall(r't\.spot\("(\w+)"\)', text)) == set(detail.spots), name
        touched = re.findall(r"t\.touch\((\d), (-?\d+), (-?\d+)\)", text)
        assert [int(n) for n, _, _ in touched] == list(range(1, len(detail.touch) + 1)), name
        assert all(hypot(int(x), int(y)) <= 70 for _, x, y in touched), name


def test_every_fault_of_every_part_has_its_one_spot(shelf):
    for machine in shelf.machines():
        for fault, record in machine.faults.items():
            spots = [
                (name, spot)
                for name, detail in machine.details.items()
                for spot, seen in detail.spots.items()
                if fault in seen
            ]
            assert len(spots) == (record.component not in NOT_PARTS), (machine.title, fault)


@pytest.mark.parametrize("number", ["0412", "0408", "0403", "0398"])
def test_a_detail_is_hatched_as_its_faults_are_suspected(shop, number):
    answer = diagnose(shop, number)
    faults = answer.belief.fault_now()
    for fault in answer.machine.faults:
        detail = detail_of(answer, fault)
        if detail is None:
            continue
        assert detail.fault == answer.machine.faults[fault].name
        for spot, seen in answer.machine.details[detail.id].spots.items():
            there = [f for f in seen if f in answer.machine.faults]
            if fault in there:
                assert detail.marks[spot] not in LEAST
            elif len(there) == 1:
                assert detail.marks[spot] == suspicion(faults[there[0]])


def test_the_leading_part_is_enlarged_beside_the_section_and_in_its_sheet(reader):
    page = reader.get("/jobs/0412/prove").text
    section = page[page.index('class="section"') : page.index("drawtabs")]
    assert section.count('data-detail="pump"') == 2, "in the margin, and for the phone"
    rotor = re.search(r'class="region is-(\w+)" data-spot="rotor" fill="([^"]+)"', section)
    assert rotor
    assert rotor[1] == "narrow"
    assert rotor[2] == "url(#h-narrow)"
    sheet = reader.get("/jobs/0412/prove?part=drain_pump").text
    assert "The two tags of the coil" in sheet
    assert 'data-detail="pump"' in sheet
