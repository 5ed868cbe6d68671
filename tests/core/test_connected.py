"""A motor that its drive takes in the lower connection, up to the line's volts at a higher frequency (87 Hz)."""

import pytest

from tests.conftest import planner, whole
from vinegate.core.facts import RuleSetName
from vinegate.core.grade import Verdict

SKERRY, LOCK = "skerry-sound.json", "harrowmere-lock.json"
JOINED = {
    "plate.volts": "230Δ/400Y", "plate.full_load_current": "93/53", "drive.base": "87 Hz", "drive.fast": "yes",
    "drive.mechanical": "5500 rpm", "drive.rated": "110 A", "protection.drive_input": "100 A", "starter.bypass": "no",
}  # fmt: skip


def fan(**changes):
    return planner(SKERRY, "F-3")(JOINED | {key.replace("__", "."): value for key, value in changes.items()})


@pytest.mark.parametrize(
    ("changes", "amps"),
    [
        ({}, 93.0),  # as stamped
        ({"plate__full_load_current": "53"}, 53 * 400 / 230),
        ({"drive__base": None}, 53.0),
        ({"drive__base": "60 Hz"}, 53.0),  # keeps no connection's volts over frequency
        ({"start__method": "full-voltage"}, 53.0),  # what its drive is set to matters on a drive
        ({"plate__volts": "400Δ/690Y", "plate__full_load_current": "53/31"}, 53.0),  # 400 V is its lower one
    ],
)
def test_overload_and_conductors_go_by_what_flows_in_the_connection_in_use(changes, amps):
    plan = fan(**changes)
    assert plan.protected.overload.line_a.value == pytest.approx(amps, rel=1e-3)
    assert plan.gate("protection.setting").limit == pytest.approx(amps, rel=1e-3)
    assert plan.gate("protection.conductors").verdict is Verdict.PASSES


def test_a_run_for_the_amperes_of_the_other_connection_is_too_thin():
    assert fan(wiring__size="16 mm²").gate("protection.conductors").verdict is Verdict.FAILS
    assert fan(wiring__size="16 mm²", drive__base=None).gate("protection.conductors").verdict is Verdict.PASSES


def test_by_tables_as_by_plates():
    """75 hp on 460 V is 96 A by the table; in the lower connection twice that sizes, and the plate's 184 A is set."""
    facts = {"start.method": "drive", "drive.base": "120 Hz", "protection.drive_input": "150 A"}
    plan = planner(LOCK, "P-11")(facts, RuleSetName.NEC)
    assert plan.gate("protection.setting").limit == pytest.approx(184.0 * 1.25)
    assert plan.figure("protection.lower_sizing").value == pytest.approx(192.0)
    assert "240 A asked" in plan.gate("protection.conductors").sentence


def test_there_is_no_way_past_its_drive():
    """Joined for 230 V its iron saturates on 400 V: by-pass and 87 Hz exclude each other."""
    plan = fan(starter__bypass="yes")
    assert plan.gate("starter.bypass").verdict is Verdict.FAILS
    assert not any(gate.key.startswith("starter.bypass_") for gate in plan.gates)
    assert not any(gate.key == "starter.bypass" for gate in fan(starter__bypass="yes", drive__base=None).gates)


def test_what_is_measured_on_it_is_held_against_those_amperes():
    running = {f"record_running.i{one}": "88 A" for one in (1, 2, 3)}
    assert whole(SKERRY, "F-3")(JOINED | running).gate("record.current").verdict is Verdict.PASSES
    assert whole(SKERRY, "F-3")(JOINED | running | {"drive.base": None}).gate("record.current").verdict is Verdict.FAILS
