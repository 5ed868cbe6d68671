"""Locked-rotor and service-factor amperes that a plate gives for each of its voltages."""

import pytest

from tests.conftest import planner
from tests.core.good import GOOD
from vinegate.core.facts import RuleSetName, read_circuit
from vinegate.core.grade import Verdict
from vinegate.core.grown import grown
from vinegate.core.plate.facts import Plate

AT_208 = GOOD["NEC, 208 V"]  # 25 hp, 208-230/460 V, 67.5-61/30.5 A, letter G
STAR = GOOD["IEC, star-delta"]
LRA, SFA = "plate.locked_rotor_current", "plate.service_factor_current"


@pytest.mark.parametrize(("volts", "amps"), [(None, 400.0), ("240", 360.0), ("480Y/277", 180.0)])
def test_those_of_the_connection_in_use_count(volts, amps):
    """Of two values for a range the one for the nearer end, as of full-load amperes."""
    found = AT_208({LRA: "400-360/180 A"} | ({"supply.volts": volts} if volts else {}))
    assert found.figure("start.locked_rotor_high").value == amps
    alone = AT_208({LRA: f"{amps:g}"} | ({"supply.volts": volts} if volts else {}))
    assert alone.figure("start.locked_rotor_high").value == amps
    assert {gate.key: gate.verdict for gate in found.gates if gate.key != LRA} == {
        gate.key: gate.verdict for gate in alone.gates
    }


def test_of_delta_and_wye_as_of_their_amperes():
    pair = {"plate.starting_current_ratio": None, LRA: "580/335"}
    assert STAR(pair).verdict is Verdict.PASSES
    assert STAR(pair).figure("start.locked_rotor_high").value == 580
    assert STAR(pair | {LRA: "335/580"}).gate(LRA).verdict is Verdict.FAILS


@pytest.mark.parametrize(
    ("path", "text", "verdict"),
    [
        (LRA, "400-360/180", Verdict.PASSES),
        (LRA, "180/400", Verdict.FAILS),
        (LRA, "400/360/180", Verdict.UNKNOWN),
        (SFA, "75-68/34", Verdict.PASSES),
        (SFA, "34/68", Verdict.FAILS),
        (SFA, "75/70/68/34", Verdict.UNKNOWN),
    ],
)
def test_they_go_inversely_with_the_volts_and_are_as_many(path, text, verdict):
    found = AT_208({path: text})
    assert found.gate(path).verdict is verdict
    assert (found.verdict is Verdict.PASSES) is (verdict is Verdict.PASSES)
    assert (path in {one.path for one in found.missing}) is (verdict is Verdict.UNKNOWN)


@pytest.mark.parametrize(("text", "verdict"), [("75-68/34", Verdict.PASSES), ("60-54/27", Verdict.FAILS)])
def test_service_factor_amperes_are_held_against_those_at_full_load(text, verdict):
    assert AT_208({SFA: text}).gate("plate.sf_amps").verdict is verdict


def test_until_the_supply_is_known_it_is_the_supply_that_lacks():
    found = AT_208({LRA: "400-360/180", "supply.volts": None, "board_2.volts": None})
    assert [one.path for one in found.missing if one.path.startswith("plate.")] == []
    assert "supply.volts" in {one.path for one in found.missing}


@pytest.mark.parametrize(("text", "says"), [("162/81", ""), ("162", "")])
def test_several_are_shown_as_they_are_written(text, says):
    assert Plate.fields()["locked_rotor_current"].echo(text, us=True) == says


@pytest.mark.parametrize(("text", "path"), [("162/x", LRA), ("162-", LRA), ("/", SFA), ("0/0", SFA)])
def test_what_is_no_amperes_is_asked_back(text, path):
    name = path.partition(".")[2]
    assert [error.path for error in read_circuit({"plate": {name: text}}, RuleSetName.NEC)[1]] == [path]


@pytest.mark.parametrize(
    ("text", "verdict"), [("300/150", None), ("150/300", Verdict.FAILS), ("300/150/75", Verdict.UNKNOWN)]
)
def test_so_do_those_of_a_new_plate(text, verdict):
    plan = planner("harrowmere-lock.json", "M-41")(
        {"new_plate.volts": "230/460", "new_plate.locked_rotor_current": text}
    )  # fmt: skip
    found = next((gate for gate in plan.gates if gate.key == "replacement.own_plate"), None)
    assert (found.verdict if found is not None else None) is verdict


def test_a_larger_motor_has_more_of_each():
    made = grown({"plate": {"locked_rotor_current": "162-150/81", "service_factor_current": "16"}}, 2, us=True)
    assert made["plate"] == {"locked_rotor_current": "324-300/162", "service_factor_current": "32 A"}
