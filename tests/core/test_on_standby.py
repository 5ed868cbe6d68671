"""A circuit that runs on the standby generator too is judged on it, with what is fitted for the utility."""

import pytest

from tests.conftest import planner
from vinegate.core.grade import Kind, Verdict

LOCK, SOUND = "harrowmere-lock.json", "skerry-sound.json"
SMALL = {"standby.generator_power": "30 kVA"}
YES = {"start.on_standby": "yes"}


def there(plan):
    """Verdicts of what is judged on the standby, by the gates they are there."""
    lead = "supply.standby_"
    return {gate.key.removeprefix(lead): gate.verdict for gate in plan.gates if gate.key.startswith(lead)}


@pytest.mark.parametrize(
    ("tag", "changes", "key", "verdict"),
    [
        # 82.8 % of 85: on the utility 99.5 %
        ("P-11", {"start.method": "soft-starter"}, "start_terminals", Verdict.FAILS),
        ("P-11", {"standby.generator_power": "600 kVA"}, "start_terminals", Verdict.PASSES),
        ("G-21", {}, "start_torque", Verdict.PASSES),
        ("R-31", SMALL, "protection_source", Verdict.FAILS),  # what runs beside it takes more
        ("M-41", {}, "protection_clears", Verdict.UNKNOWN),
        ("M-41", {"standby.sustained": "900 A"}, "protection_clears", Verdict.PASSES),
        ("M-41", {"standby.sustained": "90 A"}, "protection_clears", Verdict.FAILS),
        ("X-51", {"protection.trip_class": "10"}, "protection_class", Verdict.PASSES),
    ],
)
def test_it_is_started_fed_and_cleared_there(tag, changes, key, verdict):
    own = planner(LOCK, tag)
    plan = own(YES | changes)
    assert there(plan)[key] is verdict
    on_it = own(YES | changes | {"supply.in_use": "standby", "start.method": plan.comparison.chosen,
                                 "protection.rating": f"{plan.protected.band.rating_a:g} A",
                                 "protection.trip_class": plan.protected.overload.trip})  # fmt: skip
    assert on_it.gate(key.replace("_", ".", 1)).verdict is verdict  # as though the works ran on it
    assert there(on_it) == {}  # nothing is asked twice


@pytest.mark.parametrize(
    ("changes", "method", "verdict"),
    [
        # at the board 4.8 %; on 300 kVA terminals keep 74 % across the line, 83 % on a soft starter
        ({"limits.dip": "6 %"}, "drive", Verdict.UNKNOWN),
        ({"limits.dip": "6 %", "limits.terminal": "80 %", "protection.clears": "1200 A"}, "soft-starter", Verdict.PASSES),
        ({"limits.dip": "6 %", "standby.generator_power": "900 kVA"}, "full-voltage", Verdict.PASSES),
        ({"limits.dip": "6 %", "start.on_standby": "no"}, "full-voltage", Verdict.PASSES),
        # nothing starts it there: what fails is told of the way that serves here
        ({"limits.dip": "6 %", **SMALL}, "full-voltage", Verdict.FAILS),
        ({"limits.dip": "6 %", "start.method": "full-voltage"}, "full-voltage", Verdict.FAILS),
    ],
)  # fmt: skip
def test_the_way_that_is_advised_starts_it_there_too(changes, method, verdict):
    plan = planner(LOCK, "P-11")(YES | {"standby.sustained": "3000 A"} | changes)
    assert plan.comparison.chosen == method
    assert plan.verdict is verdict
    row = plan.comparison.row("full-voltage")
    there_too = method == "full-voltage"
    assert row.lacks == ("" if there_too else "Fails on the standby: volts at the terminals.")
    assert row.verdict is (Verdict.PASSES if there_too else Verdict.FAILS)


SLIP = {"standby.transient_reactance": "0.2", "standby.x_over_r": "12"}


@pytest.mark.parametrize(
    ("tag", "changes", "key", "verdict"),
    [
        ("F-3", {"standby.generator_power": "100 kVA"}, "drive_harmonic_volts", Verdict.FAILS),  # a soft source: 10 %
        ("F-3", {"standby.generator_power": "400 kVA"}, "drive_harmonic_volts", Verdict.PASSES),
        ("H-1", {"standby.generator_power": "100 kVA", "standby.sustained": "450 A"}, "protection_loop", Verdict.FAILS),
        (
            "H-1",
            {"standby.generator_power": "400 kVA", "standby.sustained": "900 A"},
            "protection_loop",
            Verdict.PASSES,
        ),
    ],
)
def test_by_the_other_rules_too_and_with_what_its_drive_does_to_a_softer_source(tag, changes, key, verdict):
    plan = planner(SOUND, tag)(YES | SLIP | changes)
    assert there(plan)[key] is verdict
    assert plan.gate(key.replace("_", ".", 1)).verdict is Verdict.PASSES  # on the utility


def test_past_its_drive_it_is_asked_of_the_standby_as_well():
    plan = planner(SOUND, "F-3")(YES | SLIP | {"standby.generator_power": "100 kVA"})
    assert there(plan)["start_terminals"] is Verdict.PASSES  # on its drive
    assert plan.gate("starter.bypass_supply_standby_start_terminals").verdict is Verdict.FAILS


def test_a_dip_that_a_contract_limits_is_the_utilitys_alone():
    """On 300 kVA a start that passes 4 % on the utility dips 19 %: nobody else hangs on the generator."""
    plan = planner(LOCK, "P-11")(YES)
    assert plan.gate("start.dip").verdict is Verdict.PASSES
    assert not any("dip" in key or "flicker" in key for key in there(plan))


@pytest.mark.parametrize(
    ("file", "tag", "said", "found"),
    [
        (LOCK, "P-11", None, (Kind.CONFIRM, Verdict.UNKNOWN)),
        (LOCK, "P-11", "no", None),
        (SOUND, "H-1", None, None),  # there is none
        (SOUND, "H-1", "yes", (Kind.ENGINEERING, Verdict.UNKNOWN)),
    ],
)
def test_not_said_it_is_for_the_checklist_where_there_is_one(file, tag, said, found):
    gate = next(
        (one for one in planner(file, tag)({"start.on_standby": said}).gates if one.key == "supply.standby"), None
    )
    assert (None if gate is None else (gate.kind, gate.verdict)) == found


DRIVEN = {"start.method": "drive", "drive.front_end": "active", "stop.method": "regen", "stop.drive_ramp": "8 s"}
NOTHING_ELSE = {"main_board.load_power": "0 kVA", "board_1.load_power": "0 kVA"}


@pytest.mark.parametrize(
    ("changes", "verdict"),
    [
        (NOTHING_ELSE, Verdict.FAILS),  # 34 kW come back, and its engine drags some 17
        (NOTHING_ELSE | {"stop.drive_ramp": "40 s"}, Verdict.PASSES),
        ({}, Verdict.CHECK),  # 40 kW run beside it, if they do
        ({"main_board.load_power": "150 kVA"}, Verdict.PASSES),
        ({"start.on_standby": "no"}, None),  # the grid takes it
        ({"drive.front_end": "six-pulse", "stop.method": "drive ramp"}, None),  # nothing comes back
    ],
)
def test_what_a_drive_gives_back_a_generator_must_be_rid_of(changes, verdict):
    gates = {gate.key: gate.verdict for gate in planner(LOCK, "X-51")(YES | DRIVEN | changes).gates}
    assert gates.get("stop.to_generator") is verdict


def test_capacitors_that_resonate_with_the_generator_alone_are_found():
    plan = planner(LOCK, "P-11")(YES | {"start.method": "drive", "drive.capacitors": "55 kvar"})
    assert plan.gate("drive.resonance").verdict is Verdict.CHECK
    assert there(plan)["drive_resonance"] is Verdict.CHECK
    tuned = planner(LOCK, "P-11")(YES | {"start.method": "drive", "drive.capacitors": "12 kvar"})
    assert there(tuned)["drive_resonance"] is not tuned.gate("drive.resonance").verdict


def test_a_regulated_source_costs_a_drive_no_volts():
    """On a transformer its own reactance does."""
    own = planner(LOCK, "P-11")
    left = [
        own({"start.method": "drive", "supply.in_use": one}).figure("drive.most_v").value
        for one in ("utility", "standby")
    ]
    assert left[0] < left[1] == pytest.approx(3 / 3.14159265 * 480, rel=1e-3)


def test_a_way_that_is_only_taken_here_is_not_taken_there_as_said():
    """G-21 with 400 m: full voltage keeps 70 % there, a drive 97; while nothing is simulated no way is in use."""
    plan = planner("harrowmere-lock.json", "G-21")
    facts = {"wiring.length": "400 m", "load.kind": None}
    gate = plan(facts).gate("supply.standby_start_terminals")
    assert (gate.verdict, gate.needs) == (Verdict.UNKNOWN, ("the load",))
    said = plan(facts | {"start.method": "full-voltage"}).gate("supply.standby_start_terminals")
    assert said.verdict is Verdict.FAILS
