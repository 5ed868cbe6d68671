"""What was typed and cannot be read is no empty field: the circuit does not pass without it."""

import pytest

from tests.core.good import GOOD
from vinegate.core.facts import RuleSetName, read_job
from vinegate.core.grade import Kind, Verdict
from vinegate.core.protection.feeder import feeders
from vinegate.core.protection.members import Member
from vinegate.core.unread import sheet_of

NEC, IEC = GOOD["NEC, direct"], GOOD["IEC, direct"]
ON_ITS_SHEET = {
    "plate.efficiency": "plate", "machine.inertia": "machine", "wiring.sets": "wiring", "load.breakaway": "load",
    "start.tap": "start", "protection.rating": "protection", "stop.per_hour": "stop", "supply.transformers": "supply",
    "main_board.load_power": "supply", "limits.flicker": "supply", "place.brake": "place", "starter.hands": "starter",
}  # fmt: skip


@pytest.mark.parametrize(("path", "sheet"), ON_ITS_SHEET.items())
@pytest.mark.parametrize("good", [NEC, IEC], ids=["nec", "iec"])
def test_a_good_circuit_is_not_known_where_a_fact_cannot_be_read(good, path, sheet):
    part, _, name = path.partition(".")
    assert sheet_of(part) == sheet
    plan = good({path: "?!"})
    assert [error.path for error in plan.errors] == [path]
    gate = plan.gate(f"{sheet}.unread.{part}.{name}")
    assert gate in plan.stage(sheet).gates
    assert gate.weighs
    assert plan.verdict is Verdict.UNKNOWN
    assert "“?!”" in gate.sentence
    assert gate.needs[0] in "".join(piece.text for piece in plan.answer)


@pytest.mark.parametrize(
    ("good", "path", "text"),
    [(NEC, "plate.efficiency", "91.7 %"), (NEC, "plate.efficiency", ""), (IEC, "limits.flicker", "4")],
)
def test_its_twin_that_can_be_read_passes(good, path, text):
    plan = good({path: text})
    assert not any(".unread." in gate.key for gate in plan.gates)
    assert not plan.errors


@pytest.mark.parametrize(
    ("good", "path"),
    [
        (NEC, "standby.generator_power"),
        (NEC, "board_7.volts"),
        (NEC, "area_9.ambient_high"),
        (NEC, "protection.device_iec"),
        (IEC, "protection.device_nec"),
        (NEC, "plate.rotor_volts"),
        (NEC, "drive.least"),
    ],
)
def test_what_has_nothing_to_do_with_the_circuit_leaves_it_alone(good, path):
    plan = good({path: "?!"})
    assert [error.path for error in plan.errors] == [path]
    assert plan.verdict is Verdict.PASSES


@pytest.mark.parametrize(
    "facts",
    [
        {"wiring.board": "board_7", "board_7.volts": "?!"},
        {"place.motor": "area_9", "area_9.ambient_high": "?!"},
        {"start.on_standby": "yes", "standby.generator_power": "?!"},
        {"plate.kind": "wound", "plate.rotor_volts": "?!"},
        {"start.method": "drive", "drive.least": "?!"},
    ],
)
def test_and_does_not_where_it_has(facts):
    assert any(".unread." in gate.key for gate in NEC(facts).weighing)


@pytest.mark.parametrize("path", ["new_plate.power", "record_running.i1"])
def test_what_is_compared_or_was_measured_informs(path):
    plan = NEC({path: "?!"})
    unread = [gate for gate in plan.gates if ".unread." in gate.key]
    assert [gate.kind for gate in unread] == [Kind.INFORMS]
    assert plan.verdict is Verdict.PASSES


def test_a_field_that_there_is_not_is_named_as_it_was_written():
    """As a file may have it: what it says is planned with nowhere."""
    gate = NEC({"plate.nothing": "5"}).gate("plate.unread.plate.nothing")
    assert gate.needs == ("nothing as it can be read",)
    assert "There is no field “nothing”" in gate.sentence


def test_what_fails_is_said_before_what_cannot_be_read():
    plan = NEC({"protection.rating": "400 A", "plate.efficiency": "?!"})
    assert plan.verdict is Verdict.FAILS


BOARDS = {"supply": {"volts": "480Y/277"}, "main_board": {"device": "200 A"},
          "board_1": {"device": "100 A"}, "board_2": {"fed_from": "board_1", "device": "60 A"}}  # fmt: skip


@pytest.mark.parametrize(
    ("part", "on_main", "on_board_1"),
    [("main_board", True, False), ("supply", True, False), ("board_1", True, True), ("board_2", True, True),
     ("board_3", True, False), ("limits", False, False)],
)  # fmt: skip
def test_a_feeder_is_not_known_where_a_board_it_carries_cannot_be_read(part, on_main, on_board_1):
    """What cannot be read of a board that hangs elsewhere is nothing of its own."""
    name = {"limits": "dip", "supply": "fault_level"}.get(part, "load_power")
    hung = {} if part != "board_3" else {"board_3": {"fed_from": "main"}}
    facts = {**BOARDS, **hung, part: {**BOARDS.get(part, {}), **hung.get(part, {}), name: "?!"}}
    job, errors = read_job(facts, RuleSetName.NEC)
    assert len(errors) == 1
    members = [Member(tag=tag, board=board, volts_v=480, sizing_a=20, device_a=40)
               for tag, board in (("a", "main"), ("b", "board_1"), ("c", "board_2"))]  # fmt: skip
    found = {one.key: one for one in feeders(job, members, (), errors)}
    unread = {key: any(".unread." in gate.key for gate in one.stage.gates) for key, one in found.items()}
    assert (unread["main"], unread["board_1"]) == (on_main, on_board_1)
    assert not any(".unread." in gate.key for one in feeders(job, members) for gate in one.stage.gates)
