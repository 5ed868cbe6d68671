"""A direct-current machine in place of another: its field, its speed, and what it has no need of."""

import pytest

from tests.conftest import planner
from tests.core.on_direct_current import NEC
from tests.core.test_replacement import row
from vinegate.core.replacement.fits import Fits
from vinegate.core.replacement.stage import REPLACEMENT

SAME, WITH, UNKNOWN, NOT = Fits.SAME, Fits.WITH, Fits.UNKNOWN, Fits.NOT
COPY = {f"new_{path}": text for path, text in NEC.items() if path.startswith("plate.") and text is not None}


def plan(changes):
    return planner("harrowmere-lock.json", "P-11")(NEC | COPY | changes)


@pytest.mark.parametrize(
    ("changes", "key", "fits"),
    [
        ({}, "field_winding", SAME),
        ({"new_plate.kind": "dc-series"}, "field_winding", NOT),  # without a load it runs away
        ({"plate.kind": "dc-series", "new_plate.kind": "dc-shunt"}, "field_winding", NOT),
        ({"new_plate.kind": "dc-compound"}, "field_winding", WITH),
        ({"new_plate.kind": "dc-permanent"}, "field_winding", WITH),
        ({"plate.kind": "dc-permanent"}, "field_winding", WITH),
        ({}, "field", SAME),
        ({"new_plate.field_volts": "150 V", "new_plate.field_current": "3 A"}, "field", NOT),
        ({"new_plate.field_current": "2 A"}, "field", WITH),
        ({"new_plate.field_current": "1.56 A"}, "field", SAME),  # within 5 %
        ({"new_plate.field_volts": None}, "field", UNKNOWN),
        ({}, "speed", SAME),
        ({"new_plate.speed": "1759 rpm"}, "speed", SAME),
        ({"new_plate.speed": "1800 rpm"}, "speed", WITH),  # 2.9 %
        ({"new_plate.speed": "1850 rpm"}, "speed", NOT),
        ({"new_plate.speed": "1850 rpm", "replacement.adjusted": "yes"}, "speed", WITH),
        ({"new_plate.speed": None}, "speed", UNKNOWN),
        ({"new_plate.volts": "240 V"}, "volts", WITH),
        ({"new_plate.volts": "750 V"}, "volts", NOT),  # 1.35 × 480 V are 648 V at most
    ],
)
def test_each_respect_on_its_sides(changes, key, fits):
    found = row(plan(changes), key)
    assert found.fits is fits, (found.text, found.needs)
    assert found.task or fits in (SAME, UNKNOWN)


def test_what_direct_current_has_not_is_not_asked_for():
    """No hertz, no current at rest behind a drive that holds it; a motor with magnets has no field to be fed."""
    keys = {one.key for one in plan({}).of(REPLACEMENT).rows}
    assert not keys & {"hertz", "at_rest", "leads", "design", "torque", "single"}
    assert "field" not in {one.key for one in plan({"new_plate.kind": "dc-permanent"}).of(REPLACEMENT).rows}


def test_a_motor_of_three_phases_in_its_place_asks_for_another_supply():
    found = plan({"new_plate.kind": "cage", "new_plate.frequency": "60 Hz"})
    assert row(found, "phases").fits is NOT
    assert row(found, "speed").fits is SAME  # by both plates: the old one has no frequency to be asked for
    assert not {"hertz", "at_rest"} & {one.key for one in found.of(REPLACEMENT).rows}
    assert "field_winding" not in {one.key for one in found.of(REPLACEMENT).rows}
