"""What is entered of the old motor beside its plate is not the new one's: nothing passes by it."""

import pytest

from tests.conftest import planner
from tests.core.test_location_demo import SAFE
from tests.core.test_replacement import FAN, NOT, SAME, UNKNOWN, row
from vinegate.core.replacement.anew import with_new_plate

STORE = {path.replace("__", "."): text for path, text in SAFE.items()}
PLATE = {
    "power": "4 kW", "volts": "400Δ/690Y", "full_load_current": "8.2/4.7", "frequency": "50 Hz", "speed": "1440 min⁻¹",
    "power_factor": "0.81", "starting_current_ratio": "7.1", "ex_marking": "Ex eb IIB T4 Gb", "temperature_code": "T4",
    "protection": "IP55", "cooling": "IC411", "duty": "S1",
}  # fmt: skip


def store(changes):
    """The transfer pump of a store in zone 1, its motor of increased safety, and another of the same plate."""
    copied = {f"new_plate.{key}": text for key, text in PLATE.items()} | {"new_machine.stall_hot": "30 s"}
    return planner("skerry-sound.json", "K-5")(STORE | copied | changes)


@pytest.mark.parametrize(
    ("te", "fits"),
    [(None, UNKNOWN), ("9 s", SAME), ("4 s", NOT)],  # 5 s are the least that t_E may be
)
def test_the_time_that_an_increased_safety_motor_bears_a_stall_is_its_own(te, fits):
    found = row(store({"replacement.te": te}), "circuit")
    assert found.fits is fits, (found.text, found.needs)


@pytest.mark.parametrize(("ready", "fits"), [(None, UNKNOWN), ("yes", SAME)])
def test_what_a_drives_sheet_says_of_the_motor_is_kept_where_the_new_one_is_made_for_it(ready, fits):
    plan, copied = FAN
    assert row(plan(copied | {"replacement.drive_ready": ready}), "circuit").fits is fits


@pytest.mark.parametrize(
    ("said", "plate", "drive", "protection"),
    [
        ({}, {}, {"lead": "40 m"}, {"rating": "30 A"}),
        ({"has_encoder": "no"}, {"thermal_protection": "MAN"}, {"lead": "40 m"}, {"rating": "30 A"}),
        ({"has_encoder": "yes"}, {"thermal_protection": "3 PTC"}, {"lead": "40 m", "encoder": "yes"},
         {"rating": "30 A", "thermistor": "yes"}),
    ],
)  # fmt: skip
def test_encoder_and_thermistors_stay_where_the_new_one_has_them(said, plate, drive, protection):
    raw = {
        "plate": {"power": "4 kW"}, "new_plate": {"power": "4 kW", **plate}, "replacement": said,
        "drive": {"encoder": "yes", "lead": "40 m"}, "protection": {"thermistor": "yes", "rating": "30 A"},
        "starter": {"speeds": "separate", "low_current": "20 A", "low_speed": "730 rpm"},
    }  # fmt: skip
    found = with_new_plate(raw)
    assert (found["drive"], found["protection"]) == (drive, protection)
    assert found["starter"] == {"speeds": "separate"}  # what the low speed draws is its own


def test_taken_over_it_leaves_what_was_the_old_ones_and_brings_what_was_said_of_it():
    raw = {
        "plate": {"power": "4 kW"}, "new_plate": {"power": "5 kW"},
        "start": {"method": "part-winding", "part_winding": "yes", "part_current": "62 %"},
        "drive": {"winding": "ivic-c", "tuned_r": "0.4 Ω", "lead": "40 m"},
        "place": {"motor": "area_1", "te": "9 s", "conditions": "yes", "drive_duty": "yes"},
        "replacement": {"te": "7 s", "part_winding": "no"},
    }  # fmt: skip
    found = with_new_plate(raw)
    assert found["start"] == {"method": "part-winding", "part_winding": "no"}
    assert found["drive"] == {"lead": "40 m"}
    measured = {"record_running": {"i1": "80 A"}, "record_install": {"steps": "done: Lock out."}}
    assert "record_running" not in with_new_plate(raw | measured)
    assert with_new_plate(raw | measured)["record_install"] == measured["record_install"]
    assert found["place"] == {"motor": "area_1", "te": "7 s"}
    raw |= {"sources": {"place.te": "catalogue", "place.motor": "stated"}}
    assert with_new_plate(raw)["sources"] == {"place.motor": "stated"}
    kept = with_new_plate(raw | {"replacement": {"drive_ready": "y", "listed_for_drive": "no"}})
    assert kept["drive"] == {"winding": "ivic-c", "lead": "40 m"}
    assert kept["place"] == {"motor": "area_1", "drive_duty": "no"}
    assert "place" not in with_new_plate({"plate": {"power": "4 kW"}, "new_plate": {"power": "5 kW"}})
