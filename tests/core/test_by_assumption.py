"""What its own writer calls assumed passes nothing alone where it matters; where it does not, it is not mentioned."""

from random import Random

import pytest

from tests.core.good import GOOD
from tests.core.random_facts import circuit as random_circuit
from tests.core.random_facts import jobs
from vinegate.core.grade import Verdict
from vinegate.core.plan import NOTHING, plan_raw

NEC, JOBS = GOOD["NEC, direct"], jobs()


def assumed(*paths, **facts):
    return NEC({f"sources.{path}": "assumed" for path in paths} | facts)


def gate(plan, path):
    found = [one for one in plan.gates if one.key.endswith(f".assumed.{path}")]
    assert len(found) < 2
    return found[0] if found else None


@pytest.mark.parametrize("path", ["load.power", "wiring.length", "wiring.ambient"])
def test_a_number_that_could_turn_a_verdict_is_to_check(path):
    plan = assumed(path)
    assert plan.verdict is Verdict.CHECK
    found = gate(plan, path)
    assert found.verdict is Verdict.CHECK
    assert found.turns.path == path
    assert "it turns:" in found.sentence
    assert gate(NEC({}), path) is None


@pytest.mark.parametrize("times", [0.8, 1.25])
def test_what_is_said_to_turn_does(times):
    """The gates that are named are those that no longer pass with so much more of it, and only those."""
    found, base = gate(assumed("load.power"), "load.power"), NEC({})
    asked = base.figure("load.power")
    plan = NEC({"load.power": f"{times * asked.value:.6f} {asked.unit}"})
    turned = [one.name.lower() for one in plan.weighing if one.verdict is not Verdict.PASSES]
    assert bool(turned) is (f"At {times:g} times" in found.sentence)
    assert all(name in found.sentence for name in turned[:3])


@pytest.mark.parametrize(("share", "turns"), [(0.8, True), (0.97, False)])
def test_a_fifth_less_is_the_widest_that_is_tried(share, turns):
    """Of its gear's efficiency less leaves less torque: named as they fail with so much less of it."""
    found = gate(assumed("load.gear_efficiency"), "load.gear_efficiency")
    efficiency = NEC({}).figure("load.gear")
    plan = NEC({"load.gear_efficiency": f"{100 * share * efficiency.value:.6f} %"})
    turned = [one.name.lower() for one in plan.weighing if one.verdict is not Verdict.PASSES]
    assert bool(turned) is turns
    assert found.sentence.startswith("At 0.8 times, 75.2 %, it turns: ")
    assert all(name in found.sentence for name in turned)


@pytest.mark.parametrize("path", ["load.inertia", "machine.stall_hot", "supply.fault_level"])
def test_one_that_could_not_is_not_mentioned(path):
    plan = assumed(path)
    assert gate(plan, path) is None
    assert plan.verdict is Verdict.PASSES


@pytest.mark.parametrize("source", ["measured", "catalogue", "stated", ""])
def test_from_anywhere_else_it_is_a_point(source):
    assert NEC({"sources.load.power": source}).verdict is Verdict.PASSES


def test_a_word_is_to_check_whatever_it_is():
    plan = assumed("load.kind")
    assert gate(plan, "load.kind").verdict is Verdict.CHECK


@pytest.mark.parametrize(
    "path", ["drive.least", "standby.generator_power", "plate.efficiency", "protection.device_iec"]
)
def test_nor_what_the_circuit_has_nothing_of(path):
    assert gate(assumed(path), path) is None


@pytest.mark.parametrize("path", ["main_board.name", "start.driven", "hazard.document", "limits.dip_source"])
def test_of_a_name_nothing_follows(path):
    assert gate(assumed(path), path) is None


@pytest.mark.parametrize("path", ["plate.efficiency", "plate.power_factor"])
def test_no_value_is_tried_that_cannot_be_typed(path):
    """A quarter more of 0.86 is no power factor."""
    plan = GOOD["IEC, direct"]({f"sources.{path}": "assumed"})
    assert gate(plan, path) is None or "turns" in gate(plan, path).sentence


@pytest.mark.parametrize("path", ["plate.power", "plate.speed", "plate.efficiency"])
def test_no_value_is_tried_of_which_its_plate_would_not_add_up(path):
    """Power, volts and amperes of a plate hold one another: a fifth less of one is another motor's."""
    found = gate(assumed(path), path)
    assert found is None or not any(word in found.sentence for word in ("amperes agree", "below synchronous"))


def test_what_fails_goes_on_failing():
    plan = assumed("load.power", **{"protection.rating": "400 A"})
    assert plan.verdict is Verdict.FAILS


TRANSFORMER = ("supply.transformer_impedance", "supply.transformer_power")


def together(plan):
    return [one for one in plan.gates if one.key.endswith(".assumed.together")]


def test_several_turn_together_what_none_does_alone():
    """A quarter more kVA behind a fifth less impedance give 1.56 times the fault: past 18 kA, where 1.25 times is not."""
    for path in TRANSFORMER:
        assert assumed(path).verdict is Verdict.PASSES
    plan = assumed(*TRANSFORMER)
    assert plan.verdict is Verdict.CHECK
    (found,) = together(plan)
    assert found.verdict is Verdict.CHECK
    assert (
        "With 0.8 times the impedance and 1.25 times the transformer it turns: short-circuit rating" in found.sentence
    )
    there = NEC(dict(zip(TRANSFORMER, ("4 %", "625 kVA"), strict=True)))  # of 5 % and 500 kVA
    turned = [one.key for one in there.weighing if one.verdict is not Verdict.PASSES]
    assert turned == ["protection.short_circuit_rating"]


@pytest.mark.parametrize(
    "paths",
    [
        ("supply.transformer_impedance", "load.inertia"),
        ("load.inertia", "machine.stall_hot"),
        ("machine.inertia", "main_board.load_power", "supply.fault_level"),
    ],
)
def test_several_that_turn_nothing_together_are_not_mentioned(paths):
    plan = assumed(*paths)
    assert together(plan) == []
    assert plan.verdict is Verdict.PASSES


def test_those_that_do_nothing_to_it_are_not_named():
    plan = assumed("load.inertia", *TRANSFORMER, "machine.stall_hot", "stop.within")
    (found,) = together(plan)
    assert found in plan.stage("supply").gates  # on the sheet of the first that is named
    assert all(word not in found.sentence for word in ("inertia", "stall", "within"))


class TestAmperesOfConnections:
    """A plate's amperes for each of its voltages are tried as one is: all of them so many times as large."""

    AT_208 = staticmethod(GOOD["NEC, 208 V"])

    @pytest.mark.parametrize("text", ["400-360/180", "400"])
    def test_at_rest_they_turn_nothing_here(self, text):
        facts = {"plate.locked_rotor_current": text, "sources.plate.locked_rotor_current": "assumed"}
        assert self.AT_208(facts).verdict is Verdict.PASSES

    def test_what_turns_with_full_load_amperes_is_named(self):
        found = gate(self.AT_208({"sources.plate.full_load_current": "assumed"}), "plate.full_load_current")
        assert found.sentence.startswith("At 1.25 times it turns: ampacity, ")
        more = self.AT_208({"plate.full_load_current": "84.375-76.25/38.125"})
        assert more.gate("protection.conductors").verdict is not Verdict.PASSES


def conductors(plan):
    return plan.gate("protection.conductors")


class TestWhatFails:
    """An assumption fails nothing alone: what would not fail at an end of it is to check, and says so."""

    # 8 AWG of 75 °C wire: 0.75 of 50 A at 50 °C and 0.88 at 40 °C, of 42.5 A asked; 0.58 at 60 °C and 0.75 at 48 °C.
    @pytest.mark.parametrize(("ambient", "verdict"), [("50 °C", Verdict.CHECK), ("60 °C", Verdict.FAILS)])
    def test_it_is_to_check_where_a_fifth_less_would_do(self, ambient, verdict):
        assert conductors(NEC({"wiring.ambient": ambient})).verdict is Verdict.FAILS
        plan = assumed("wiring.ambient", **{"wiring.ambient": ambient})
        assert (conductors(plan).verdict, plan.verdict) == (verdict, verdict)
        assert gate(plan, "wiring.ambient") is None  # nothing that passes turns: said once, where it fails

    def test_it_says_what_it_rests_on_and_what_settles_it(self):
        found = conductors(assumed("wiring.ambient", **{"wiring.ambient": "50 °C"}))
        assert found.sentence.endswith("It rests on the ambient, assumed: at 0.8 times, 40 °C, it need not fail.")
        assert found.turns.path == "wiring.ambient"

    def test_what_fails_by_another_fact_fails(self):
        plan = assumed("wiring.ambient", **{"wiring.ambient": "50 °C", "protection.rating": "400 A"})
        assert conductors(plan).verdict is Verdict.CHECK
        assert plan.verdict is Verdict.FAILS

    def test_the_devices_and_the_row_in_use_read_as_their_gates(self):
        facts = {"load.breakaway": "240 %"}
        before, plan = NEC(facts), assumed("load.breakaway", **facts)
        assert before.gate("start.torque").verdict is Verdict.FAILS
        (was,) = [row for row in before.comparison.rows if row.chosen]
        (row,) = [row for row in plan.comparison.rows if row.chosen]
        assert (was.verdict, row.verdict) == (Verdict.FAILS, Verdict.CHECK)

    def test_a_plate_that_adds_up_at_an_end_is_to_check(self):
        facts = {"plate.full_load_current": "50"}  # 0.47 of efficiency and power factor: of 40 A they are 0.59
        assert NEC(facts).gate("plate.power").verdict is Verdict.FAILS
        plan = assumed("plate.full_load_current", **facts)
        assert plan.gate("plate.power").verdict is Verdict.CHECK
        assert plan.verdict is Verdict.FAILS  # 62.5 A are asked of 44: at 40 A still 50
        assert plan.gate("start.dip").verdict is Verdict.CHECK  # nothing passes by a plate that cannot be
        assert "".join(piece.text for piece in plan.answer[:2]).startswith("The plate does not add up: 25 hp from 50 A")

    def test_a_device_reads_as_its_gate(self):
        plan = assumed("wiring.ambient", **{"wiring.ambient": "50 °C"})
        shown = [one for device in plan.protected.devices for one in device.gates if one.key == "protection.conductors"]
        assert [one.verdict for one in shown] == [Verdict.CHECK]

    # It takes 0.29 s; for a quarter more than 0.2 s another brake does it.
    @pytest.mark.parametrize(("within", "verdict"), [("0.2 s", Verdict.CHECK), ("0.1 s", Verdict.FAILS)])
    def test_the_stop_in_use_reads_as_its_gate(self, within, verdict):
        plan = assumed("stop.within", **{"stop.within": within})
        (row,) = [row for row in plan.stopping.rows if row.chosen]
        assert (row.verdict, plan.gate("stop.stop").verdict) == (verdict, verdict)

    @pytest.mark.parametrize(("air", "verdict"), [("45 °C", Verdict.CHECK), ("55 °C", Verdict.FAILS)])
    def test_a_device_in_its_area_reads_as_its_gate(self, air, verdict):
        facts = {"area_3.ambient_high": air, "sources.area_3.ambient_high": "assumed"}  # certified to 40 °C
        plan = GOOD["IEC, zone 1 d"](facts)
        motor = plan.placed.device("motor")
        assert (plan.gate("place.motor").verdict, motor.verdict) == (verdict, verdict)
        assert any(check.verdict is Verdict.FAILS for check in motor.checks) is (verdict is Verdict.FAILS)


class TestWords:
    """One of a few words is tried as each of the others."""

    def test_only_what_turns_is_named(self):
        found = gate(assumed("wiring.insulation"), "wiring.insulation")
        assert found.sentence == "Where it is “60 °C” it turns: ampacity."

    def test_a_word_that_turns_nothing_is_not_mentioned(self):
        iec = GOOD["IEC, direct"]
        assert iec({"sources.protection.coordination": "assumed"}).verdict is Verdict.PASSES

    def test_what_fails_with_one_word_alone_is_to_check(self):
        plan = assumed("wiring.insulation", **{"wiring.insulation": "60"})
        assert conductors(plan).verdict is Verdict.CHECK
        assert "where it is “75 °C” it need not fail" in conductors(plan).sentence


class TestOfManyBoards:
    """What stands at one of many boards is tried too, and named with its board."""

    BOARD = staticmethod(GOOD["NEC, class I division 2 on a sub-board"])

    def run(self, length):
        return self.BOARD({"board_1.length": length, "sources.board_1.length": "assumed"})

    def test_a_feeder_is_tried_longer_and_shorter(self):
        assert self.run("100 ft").verdict is Verdict.PASSES
        plan = self.run("500 m")  # 6.1 % of 5
        drop = plan.gate("protection.drop_total")
        assert drop.verdict is Verdict.CHECK
        assert "the length of Digester MCC, assumed: at 0.8 times" in drop.sentence
        assert self.run("700 m").gate("protection.drop_total").verdict is Verdict.FAILS


@pytest.mark.parametrize("seed", range(20))
def test_of_any_circuit_only_what_failed_may_stand_otherwise(seed):
    """With some of its facts assumed nothing passes that did not, and what is in use fails where a gate of it does."""
    rules, job, facts = random_circuit(seed, JOBS)
    paths = [f"{part}.{name}" for part, values in facts.items() for name in values]
    some = Random(seed).sample(paths, min(3, len(paths)))
    before, plan = (
        plan_raw(rules, job, facts | {"sources": dict.fromkeys(some, source)}, beside=NOTHING)
        for source in ("stated", "assumed")
    )
    was = {one.key: one.verdict for one in before.weighing}
    for one in plan.weighing:
        now = {was.get(one.key, Verdict.CHECK), one.verdict}
        assert len(now) == 1 or now == {Verdict.FAILS, Verdict.CHECK} or ".assumed." in one.key
    for stage, found in (("start", plan.comparison), ("stop", plan.stopping)):
        fails = any(one.fails and one.key.startswith(f"{stage}.") for one in plan.weighing)
        assert all(fails for row in (found.rows if found else ()) if row.chosen and row.verdict is Verdict.FAILS)


def test_a_kind_that_nobody_said_lifts_the_rows_in_use_too():
    facts = {"plate.kind": None, "plate.run_capacitor": "30 µF", "load.breakaway": "300 %", "stop.within": "0.1 s"}
    plan = NEC(facts)
    assert {plan.gate(key).verdict for key in ("start.torque", "stop.stop")} == {Verdict.CHECK}
    rows = (*plan.comparison.rows, *plan.stopping.rows)
    assert [row.verdict for row in rows if row.chosen] == [Verdict.CHECK, Verdict.CHECK]
