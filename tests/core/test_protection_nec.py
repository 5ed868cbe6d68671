"""Devices by NFPA 70: its own worked example, the ladder of horsepower, and what is refused."""

import itertools
import math
from typing import ClassVar

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import planner
from tests.examples import examples
from vinegate.core.facts import RuleSetName, read_job
from vinegate.core.grade import Kind, Verdict
from vinegate.core.protection.feeder import feeders
from vinegate.core.protection.members import Member
from vinegate.core.protection.ratings import standard_ratings
from vinegate.core.rules.nec.conductors import Laid, area_cmil
from vinegate.core.rules.nec.table_current import column_volts
from vinegate.core.rules.sets import rule_set
from vinegate.core.tables import load

NFPA_EXAMPLE_25HP = {
    "plate.power": "25 hp",
    "plate.full_load_current": "64/32",
    "plate.speed": "1180 rpm",
    "plate.frame": None,
    "plate.efficiency": None,
    "plate.power_factor": None,
    "load.power": "20 hp",
    "start.method": "full-voltage",
    "protection.device_nec": "fuse",
}
NFPA_EXAMPLE_30HP = {
    "plate.kind": "wound",
    "plate.power": "30 hp",
    "plate.volts": "460",
    "plate.full_load_current": "38",
    "plate.speed": "1160 rpm",
    "plate.service_factor": None,
    "plate.temperature_rise": "40 K",
    "plate.code_letter": None,
    "plate.code_letter_for": None,
    "plate.design_letter": None,
    "plate.leads": None,
    "plate.frame": None,
    "plate.efficiency": None,
    "plate.power_factor": None,
    "protection.device_nec": "fuse",
}


def gate(plan, key):
    return plan.gate(f"protection.{key}")


@pytest.fixture(scope="module")
def example(p11):
    return p11(NFPA_EXAMPLE_25HP), p11(NFPA_EXAMPLE_30HP)


@pytest.fixture(scope="session")
def p11():
    return planner("harrowmere-lock.json", "P-11")


class TestInformativeAnnexExampleD8:
    """NFPA 70 informative annex D, example D8: one 25 hp cage motor of 32 A, two 30 hp wound-rotor motors of 38 A."""

    def test_conductors(self, example):
        assert example[0].figure("wiring.need").value == pytest.approx(42.5)  # 34 · 1.25, printed 43 A
        assert example[1].figure("wiring.need").value == pytest.approx(50.0)  # 40 · 1.25

    def test_overloads(self, example):
        assert example[0].figure("overload.normal").value == pytest.approx(40.0)  # 32 · 1.25
        assert example[1].figure("overload.normal").value == pytest.approx(47.5)  # 38 · 1.25, printed 48 A

    def test_branch_devices(self, example):
        cage, wound = example
        assert cage.figure("protection.device_usual").value == pytest.approx(102)  # 34 · 3
        assert cage.figure("protection.device_rating").value == 110
        assert cage.figure("protection.device_rating_most").value == 125  # not above 34 · 4 = 136
        assert wound.figure("protection.device_usual").value == pytest.approx(60)  # 40 · 1.5
        assert wound.figure("protection.device_rating").value == 60

    def test_feeder(self):
        job, _ = read_job({"supply": {"volts": "480Y/277"}}, RuleSetName.NEC)
        members = [
            Member(tag=tag, board="main", volts_v=480, sizing_a=amps, device_a=device)
            for tag, amps, device in (("a", 34, 110), ("b", 40, 60), ("c", 40, 60))
        ]
        (feeder,) = feeders(job, members)
        assert feeder.need.value == pytest.approx(124)  # 1.25 · 40 + 40 + 34
        assert feeder.most.value == pytest.approx(190)  # 110 + 40 + 40
        assert feeder.advised == "175 A"


LADDER = ("3", "5", "7.5", "10", "15", "20", "25", "30", "40", "50", "60", "75", "100", "125", "150", "200")


@pytest.mark.slow
@pytest.mark.parametrize("device", ["time-delay", "fuse", "inverse-time", "instantaneous"])
def test_a_bigger_motor_never_gets_a_smaller_device(p11, device):
    currents = load("full_load_current_3ph")
    sizes = []
    for hp in LADDER:
        amps = currents.number(currents.find(hp=hp), "460")
        changes = {
            "plate.power": f"{hp} hp",
            "plate.full_load_current": f"{2 * amps}/{amps}",
            "plate.efficiency": None,
            "plate.power_factor": None,
            "plate.frame": None,
            "load.kind": None,
            "protection.device_nec": device,
            "protection.clears": None,
            "start.method": "full-voltage",
        }
        plan = p11(changes)
        found = {one.key: one for one in plan.protected.devices}
        starters = [row["size"] for row in load("starter_nema").rows]
        sizes.append(
            (
                float(found["device"].advised.split()[0]),
                float(found["disconnect"].advised.split()[0]),
                area_cmil(found["conductors"].advised),
                starters.index(found["starter"].advised.removeprefix("size ")),
                float(found["overload"].advised.split()[0]),
            )
        )
    for smaller, larger in itertools.pairwise(sizes):
        assert all(a <= b for a, b in zip(smaller, larger, strict=True)), (smaller, larger)


@examples(300)
@given(
    amps=st.floats(1, 400),
    metal=st.sampled_from(["copper", "aluminium"]),
    insulation=st.sampled_from([60, 75, 90]),
    terminals=st.sampled_from([60, 75]),
    ambient=st.floats(0.29, 1.2),
    bundling=st.sampled_from([1.0, 0.8, 0.7, 0.5]),
    sets=st.integers(1, 4),
)
@pytest.mark.slow
def test_the_size_taken_carries_what_is_asked_and_the_one_below_does_not(
    amps, metal, insulation, terminals, ambient, bundling, sets
):
    run = Laid(
        metal=metal, insulation=insulation, terminals=terminals, ambient=ambient, bundling=bundling, sets=sets
    )  # fmt: skip
    size = run.least(amps)
    sizes = [row["size"] for row in load("ampacity_nec").rows]
    if size is None:
        assert run.ampacity(sizes[-1]) < amps
        return
    assert run.ampacity(size) >= amps - 1e-6
    below = sizes[sizes.index(size) - 1] if size != sizes[0] else None
    carries = run.ampacity(below) if below else None
    assert carries is None or carries < amps or (sets > 1 and size == "1/0 AWG")


def test_terminals_limit_before_insulation(p11):
    """90 °C insulation helps against heat and bundling only: the terminals still ask for their own column."""
    plain = p11({"wiring.insulation": "90"})
    assert plain.figure("wiring.ampacity").value == 150  # 1/0 copper at 75 °C
    hot = p11({"wiring.insulation": "90", "wiring.ambient": "50 °C", "wiring.grouped": "6"})
    assert hot.figure("wiring.ampacity").value == pytest.approx(170 * 0.82 * 0.8)


def test_a_motor_without_design_letter_below_100_amperes_is_held_to_60_degrees(p11):
    small = p11({"plate.power": "25 hp", "plate.full_load_current": "64/32", "plate.design_letter": None})
    assert small.figure("wiring.terminals").value == 60
    assert p11({"plate.power": "25 hp"}).figure("wiring.terminals").value == 75  # design B


def test_wye_start_and_part_winding_conductors_between_starter_and_motor(p11):
    wye = p11({"start.method": "wye-delta"})
    assert wye.figure("wiring.motor_side").value == pytest.approx(0.72 * 96)
    part = p11({"start.method": "part-winding", "plate.volts": "230", "plate.full_load_current": "184"})
    assert part.figure("wiring.motor_side").value == pytest.approx(0.625 * 192)


@pytest.mark.parametrize(
    ("run", "rated", "share"),
    [
        ("intermittent", "5 MIN", 0.85), ("intermittent", "30 MIN", 0.90), ("intermittent", "1 HR", 0.90),
        ("intermittent", None, 1.40), ("short-time", "S2 5 min", 1.10), ("short-time", "S2 15 min", 1.20),
        ("short-time", "1/2 HR", 1.50), ("varying", None, 2.0),
    ],
)  # fmt: skip
def test_by_duty_and_the_motors_time_rating(p11, run, rated, share):
    """NFPA 70 table 430.22(E), of the plate's 92 A."""
    plan = p11({"wiring.duty": run, "plate.duty": rated})
    assert plan.figure("wiring.need").value == pytest.approx(share * 92)


class TestRefused:
    """Combinations that are not allowed, each with its reason."""

    @pytest.mark.parametrize(("listed", "verdict"), [("no", "fails"), ("yes", "passes"), (None, "not known")])
    def test_instantaneous_trip_outside_a_listed_combination(self, p11, listed, verdict):
        plan = p11({"protection.device_nec": "instantaneous", "protection.listed": listed})
        assert gate(plan, "listed").verdict == verdict

    def test_overload_above_its_ceiling(self, p11):
        # dial trips at 1.25 times its mark: 100 A is 125 A, above 115 and below 128.8; 105 A is 131 A
        assert gate(p11({"protection.overload": "92 A"}), "setting").verdict is Verdict.PASSES
        assert gate(p11({"protection.overload": "100 A"}), "setting").verdict is Verdict.FAILS  # 115 A starts it
        slow = {"start.method": "full-voltage", "load.inertia": "40 kg·m²", "protection.trip_class": "10"}
        allowed = gate(p11(slow | {"protection.overload": "100 A"}), "setting")  # 115 A does not
        assert allowed.verdict is Verdict.PASSES
        assert (allowed.limit, allowed.margin) == pytest.approx((1.4 * 92, 1.4 * 92 - 125))  # held against the ceiling
        assert gate(p11({"protection.overload": "105 A"}), "setting").verdict is Verdict.FAILS

    def test_the_other_habit_names_the_trip_current(self, p11):
        by_element = {"protection.overload_habit": "element"}
        assert p11(by_element).protected.device("overload").advised == "115 A"
        assert gate(p11(by_element | {"protection.overload": "115 A"}), "setting").verdict is Verdict.PASSES
        assert gate(p11(by_element | {"protection.overload": "130 A"}), "setting").verdict is Verdict.FAILS

    def test_automatic_reset_where_a_restart_may_injure(self, p11):
        assert gate(p11({"protection.reset": "automatic"}), "reset").verdict is Verdict.FAILS
        harmless = {"protection.reset": "automatic", "protection.restart_harmless": "yes"}
        assert gate(p11(harmless), "reset").verdict is Verdict.PASSES

    def test_a_protector_that_resets_by_itself(self, p11):
        """In the line of a single-phase machine, or in the star of a small one, it starts it; in a control circuit of
        three wires, as of a large one, it does not.
        """
        auto = {"plate.thermal_protection": "AUTO"}
        harmless, hurts = ({"protection.restart_harmless": word} for word in ("yes", "no"))
        single, small = (planner("harrowmere-lock.json", tag) for tag in ("C-71", "R-31"))
        for plan, changes, verdict in (
            (p11, auto, Verdict.PASSES),
            (p11, auto | hurts, Verdict.PASSES),
            (single, auto | {"protection.restart_harmless": None}, Verdict.CHECK),
            (single, auto | hurts, Verdict.FAILS),
            (single, auto | harmless, Verdict.PASSES),
            (single, hurts | {"plate.thermal_protection": "TPM"}, Verdict.PASSES),
            (single, hurts | {"plate.thermal_protection": "Thermostat, automatic"}, Verdict.FAILS),
            (single, hurts | {"plate.thermal_protection": "thermally protected"}, Verdict.CHECK),
            (p11, hurts | {"plate.thermal_protection": "thermally protected"}, Verdict.PASSES),
            (small, auto | {"protection.restart_harmless": None}, Verdict.CHECK),
            (small, auto | hurts, Verdict.FAILS),
            (small, auto | harmless, Verdict.PASSES),
            (small, hurts | {"plate.thermal_protection": "thermally protected"}, Verdict.CHECK),
            (small, hurts | {"plate.thermal_protection": "3 PTC"}, Verdict.PASSES),
        ):
            assert gate(plan(changes), "reset").verdict is verdict, changes
        held = p11(auto | hurts | {"starter.command": "two-wire"})
        assert held.gate("starter.restart").verdict is Verdict.FAILS

    def test_part_winding_with_a_full_size_device(self, p11):
        part = {
            "start.method": "part-winding", "plate.volts": "230", "plate.full_load_current": "184",
            "supply.volts": "240 V",
        }  # fmt: skip
        full = p11(part | {"protection.rating": "350 A"})
        assert gate(full, "device").verdict is Verdict.FAILS
        assert "half" in gate(full, "device").remedy
        assert gate(full, "halves").verdict is Verdict.FAILS
        halves = p11(part | {"protection.rating": "175 A", "protection.overload_place": "half"})
        assert gate(halves, "device").verdict is Verdict.PASSES
        assert "protection.halves" not in [one.key for one in halves.gates]

    def test_a_rating_above_the_usual_needs_its_reason_and_never_passes_the_exception(self, p11):
        assert gate(p11({"protection.rating": "200 A"}), "device").verdict is Verdict.FAILS
        with_reason = {"protection.rating": "200 A", "protection.exception": "start"}
        assert gate(p11(with_reason), "device").verdict is Verdict.FAILS  # whatever the reason, 175 A holds the start
        assert gate(p11(with_reason | {"protection.rating": "225 A"}), "device").verdict is Verdict.FAILS

    def test_small_conductors_in_parallel(self, p11):
        assert gate(p11({"wiring.size": "2 AWG", "wiring.sets": "2"}), "conductors").verdict is Verdict.FAILS
        assert gate(p11({"wiring.size": "1/0 AWG", "wiring.sets": "2"}), "conductors").verdict is Verdict.PASSES

    def test_a_switch_out_of_sight_that_does_not_lock(self, p11):
        hidden = {"protection.in_sight": "no", "protection.lockable": "no"}
        assert gate(p11(hidden), "in_sight").verdict is Verdict.FAILS
        locked = gate(p11(hidden | {"protection.lockable": "yes"}), "in_sight")
        assert (locked.kind, locked.verdict) == (Kind.CONFIRM, Verdict.UNKNOWN)

    def test_an_assumption_opens_no_gate(self, p11):
        assert gate(p11({"wiring.insulation": None}), "conductors").verdict is Verdict.PASSES  # at 60 °C too
        tight = p11({"wiring.insulation": None, "wiring.size": "1 AWG", "wiring.ambient": "38 °C"})
        found = gate(tight, "conductors")
        assert (found.verdict, found.turns.path) == (Verdict.CHECK, "wiring.insulation")
        assert gate(p11(), "starter").kind is Kind.CONFIRM  # a soft starter's rating is its maker's to confirm
        unknown = p11({"protection.rating": "200 A", "load.kind": None, "start.method": "full-voltage"})
        assert gate(unknown, "device").verdict is Verdict.UNKNOWN

    def test_an_overload_that_cannot_be_sized_has_its_gate(self, p11):
        bare = p11({"plate.full_load_current": None})
        assert [one.verdict for one in bare.stage("overload").gates] == [Verdict.UNKNOWN]

    def test_the_motors_own_share_counts_in_the_rating(self, p11):
        # 11.64 kA from the supply and 0.59 kA from the motor itself
        assert gate(p11({"protection.short_circuit_rating": "12 kA"}), "short_circuit_rating").verdict is Verdict.FAILS

    def test_an_assembly_rated_below_the_fault(self, p11):
        assert gate(p11({"protection.short_circuit_rating": "10 kA"}), "short_circuit_rating").verdict is Verdict.FAILS
        assert gate(p11({"protection.short_circuit_rating": None}), "short_circuit_rating").verdict is Verdict.UNKNOWN

    @pytest.mark.parametrize(("path", "text"), [("disconnect", "100 A"), ("starter_size", "3")])
    def test_a_switch_or_starter_too_small(self, p11, path, text):
        plan = p11({f"protection.{path}": text, "start.method": "full-voltage"})
        assert gate(plan, path.removesuffix("_size")).verdict is Verdict.FAILS


def test_grounding_conductor_grows_with_the_phase_conductors_but_never_past_them(p11):
    assert p11({"wiring.size": "1 AWG"}).protected.device("grounding").advised == "6 AWG"  # behind 175 A
    # 4/0 for 1 AWG: 211 600/83 690 = 2.53 times 26 240 is 66 350 cmil: 2 AWG
    assert p11({"wiring.size": "4/0 AWG"}).protected.device("grounding").advised == "2 AWG"
    hoist = planner("harrowmere-lock.json", "G-21")()
    assert hoist.protected.device("grounding").advised == "12 AWG"  # the table's 10 AWG is capped


def test_behind_an_instantaneous_trip_the_grounding_conductor_is_that_of_a_time_delay_fuse(p11):
    """250.122(D)(2): 175 % of 96 A is 168, 175 A: 6 AWG, whatever the trip is set to."""
    plan = p11({"protection.device_nec": "instantaneous", "wiring.size": "1 AWG"})
    assert plan.protected.device("device").advised == "400 A"
    assert plan.protected.device("grounding").advised == "6 AWG"


def test_jogging_asks_a_larger_starter(p11):
    full = {"start.method": "full-voltage"}
    assert p11(full).protected.device("starter").advised == "size 4"
    assert p11(full | {"protection.jogging": "yes"}).protected.device("starter").advised == "size 5"


def test_an_electronic_starter_is_the_makers(p11):
    drive = p11({"start.method": "drive"}).protected.device("starter")
    assert (drive.advised, drive.chosen) == ("≥ 92 A", "by maker")
    small = p11({"start.method": "drive", "protection.electronic": "80 A"})
    assert gate(small, "starter").verdict is Verdict.FAILS
    assert gate(p11({"start.method": "drive", "protection.electronic": "96 A"}), "starter").verdict is Verdict.PASSES


def test_ratings_are_standard_ones(demo_plans):
    known = set(standard_ratings(fuse=True))
    for tag, plan in demo_plans.items():
        if plan.rules == "nec":
            assert float(plan.protected.device("device").advised.split()[0]) in known, tag


class TestFuseAndSwitch:
    """430.57: a fusible switch takes its fuses."""

    def test_the_advised_switch_takes_the_fuses(self, p11):
        """75 hp: 110.4 A asked, 175 A fuses; with a breaker the 115 % alone decides."""
        assert p11().protected.device("disconnect").chosen == "200 A"
        small = p11({"protection.device_nec": "inverse-time", "plate.power": "60 hp", "plate.full_load_current": "71"})
        assert small.protected.device("disconnect").chosen == "100 A"  # 1.15 · 77 = 88.6
        fused = p11({"plate.power": "60 hp", "plate.full_load_current": "71"})
        assert fused.protected.device("disconnect").chosen == "200 A"  # 150 A fuses

    def test_a_smaller_switch_is_to_be_seen_to_on_site(self, p11):
        plan = p11({"protection.disconnect": "150 A"})
        assert [gate.key for gate in plan.to_confirm if gate.key == "protection.fuses_fit"] == ["protection.fuses_fit"]
        assert plan.gate("protection.disconnect").verdict == "passes"
        assert plan.verdict == "passes"

    def test_class_cc_ends_at_30_a(self, p11):
        small = {"plate.power": "5 hp", "plate.full_load_current": "6.6", "protection.device_nec": "class-cc"}
        assert p11({**small, "protection.rating": "25 A"}).gate("protection.device").verdict != "fails"
        gate = p11({"protection.device_nec": "class-cc"}).gate("protection.device")
        assert gate.verdict == "fails"
        assert "end at 30 A" in gate.sentence

    def test_large_fuses_go_no_higher_than_300_percent(self, p11):
        """250 hp at 460 V: 302 A. A fuse at 400 % would be 1200 A; at 300 % it is 906 A, next size up 1000 A."""
        big = {"plate.power": "250 hp", "plate.full_load_current": "286", "protection.device_nec": "fuse"}
        assert p11(big).figure("protection.device_rating_most").value == 1000
        assert (
            p11({**big, "plate.power": "125 hp", "plate.full_load_current": "146"})
            .figure("protection.device_rating_most")
            .value
            == 600
        )  # 400 % of 156


class TestTerminalsNotMarked:
    """110.14(C)(1)(a): 60 °C up to 100 A unless marked. 30 hp, 40 A: 50 A asked; 8 AWG carries 40 A or 50 A, 6 AWG 55 A."""

    SMALL: ClassVar = {
        "plate.power": "30 hp", "plate.full_load_current": "38", "plate.design_letter": None,
        "wiring.terminals": None, "protection.rating": None,
    }  # fmt: skip

    @pytest.mark.parametrize(
        ("size", "marked", "verdict"),
        [("8 AWG", None, "check"), ("8 AWG", "60", "fails"), ("8 AWG", "75", "passes"), ("6 AWG", None, "passes"),
         ("10 AWG", None, "fails")],
    )  # fmt: skip
    def test_the_mark_decides_where_it_alone_does(self, p11, size, marked, verdict):
        gate = p11({**self.SMALL, "wiring.size": size, "wiring.terminals": marked}).gate("protection.conductors")
        assert gate.verdict == verdict
        if verdict == "check":
            assert (gate.turns.path, gate.turns.passes_as, gate.turns.fails_as) == ("wiring.terminals", "75", "60")


LONG = {"wiring.length": "250 m"}


@pytest.mark.parametrize("device", ["conductors"])
def test_the_advised_size_holds_all_that_is_asked_of_the_run(p11, device):
    """250 m: the ampacity's size drops too much; the advised one keeps 3 %, and the size below it does not."""
    advised = p11(LONG | {"wiring.size": "1 AWG"}).protected.device(device)
    assert "drop" in advised.asked
    assert p11(LONG | {"wiring.size": advised.advised}).gate("protection.drop").verdict is Verdict.PASSES
    sizes = [row["size"] for row in load("ampacity_nec").rows]
    below = sizes[sizes.index(advised.advised) - 1]
    assert p11(LONG | {"wiring.size": below}).gate("protection.drop").verdict is Verdict.FAILS
    assert p11({"wiring.size": "1 AWG"}).protected.device(device).advised == "1 AWG"


def test_the_terminals_ask_for_their_size_too(p11):
    """Started at full voltage on a weak source the floor decides before the drop does."""
    weak = {"wiring.length": "150 m", "start.method": "full-voltage", "limits.terminal": "90 %", "wiring.size": "1 AWG"}
    advised = p11(weak).protected.device("conductors")
    assert "terminals" in advised.asked
    assert p11(weak | {"wiring.size": advised.advised}).gate("start.terminals").margin >= 0


def test_parallel_sets_are_never_advised_below_1_0(p11):
    """NFPA 70 310.10(G): the take button offers 1/0 AWG, the remedy a single conductor as well."""
    found = p11({"wiring.sets": "2", "wiring.size": "4 AWG"}).protected.device("conductors")
    assert (found.advised, found.take) == ("1/0 AWG", "1/0 AWG")
    assert found.gates[0].verdict is Verdict.FAILS
    assert found.gates[0].remedy == "1/0 AWG in each set, or a single 1 AWG."
    assert p11({"wiring.sets": "2", "wiring.size": "1/0 AWG"}).gate("protection.conductors").verdict is Verdict.PASSES


def test_the_instantaneous_setting_is_the_least_that_holds(p11):
    """A release that may trip 20 % below its mark: peak over √2 over 0.8, in tens; not the ceiling of 800 %."""
    changes = {"protection.device_nec": "instantaneous", "start.method": "full-voltage"}
    plan = p11(changes)
    least = math.ceil(plan.figure("start.full.peak").value / math.sqrt(2) / 0.8 / 10) * 10
    device = plan.protected.device("device")
    assert device.advised == f"{least} A"
    assert least < plan.figure("protection.device_most").value
    assert plan.gate("protection.holds").verdict is not Verdict.FAILS
    below = p11(changes | {"protection.rating": f"{least - 10} A"})
    assert below.gate("protection.holds").verdict is not Verdict.PASSES


DRIVE = {"start.method": "drive", "start.speed_control": "yes"}


class TestBehindADrive:
    """NFPA 70 430.122 to 430.130."""

    def test_its_rated_input_and_its_mark_are_asked(self, p11):
        plan = p11(DRIVE)
        assert plan.gate("protection.drive_input").verdict is Verdict.UNKNOWN
        assert plan.gate("protection.drive_device").verdict is Verdict.UNKNOWN
        assert not any(gate.key == "protection.clears" for gate in plan.gates)

    def test_conductors_ahead_go_by_the_larger_input(self, p11):
        """125 % of 104 A: 130 A, which 1 AWG does not reach and 1/0 does; an input below the table's changes nothing."""
        assert p11(DRIVE | {"protection.drive_input": "104 A"}).figure("wiring.need").value == pytest.approx(130)
        assert p11(DRIVE | {"protection.drive_input": "80 A"}).figure("wiring.need").value == pytest.approx(120)

    @pytest.mark.parametrize(("marked", "verdict"), [("175 A", "passes"), ("150 A", "fails")])
    def test_never_above_the_device_marked_on_it(self, p11, marked, verdict):
        rated = {"protection.rating": "175 A", "protection.drive_device": marked}
        assert p11(DRIVE | rated).gate("protection.drive_device").verdict == verdict


@pytest.mark.parametrize(("marked", "verdict"), [("175 A", "passes"), ("150 A", "fails"), (None, None)])
def test_never_above_what_its_overload_relay_is_marked_for(p11, marked, verdict):
    """430.52(C)(2); where no rating is typed none larger is advised: 175 A by the table, 150 A by the mark."""
    direct = {"start.method": "full-voltage", "protection.drive_device": marked}
    found = [
        gate for gate in p11(direct | {"protection.rating": "175 A"}).gates if gate.key == "protection.drive_device"
    ]
    assert [gate.verdict for gate in found] == ([verdict] if verdict else [])
    advised = p11(direct).protected.device("device").advised
    assert advised == ("150 A" if marked == "150 A" else "175 A")
    assert "430.52(C)(2)" in "".join(gate.source for gate in found) or not marked


def test_one_fuse_for_both_halves(p11):
    """430.4: a time-delay fuse for both half windings at most 150 % of 96 A, 144 A: 125 A; each alone half of 175 %."""
    half = {"start.method": "part-winding", "start.part_winding": "yes", "supply.volts": "240 V",
            "protection.overload_place": "half"}  # fmt: skip
    amps = p11(half).figure("plate.table_current").value
    single = p11(half | {"protection.halves": "single"})
    allowed = single.figure("protection.device_rating").value
    assert allowed <= 1.5 * amps < 1.5 * allowed
    ratings = {"protection.halves": "single", "protection.rating": f"{allowed:g} A"}
    assert p11(half | ratings).gate("protection.device").verdict is Verdict.PASSES
    assert p11(half | {"protection.rating": f"{allowed:g} A"}).gate("protection.device").verdict is Verdict.FAILS


def test_sizes_before_the_plate_amperes_are_known(p11):
    """430.6(A)(1): 75 hp at 460 V is 96 A by the table, whatever the plate will say."""
    plan = p11({"plate.full_load_current": None})
    assert plan.protected.device("conductors").advised == "1 AWG"
    assert plan.protected.device("device").advised == "175 A"
    assert plan.protected.device("disconnect").advised == "200 A"
    assert plan.protected.device("overload").advised == "–"


def test_an_isolating_switch_above_100_horsepower(p11):
    large = {"plate.power": "150 hp", "plate.full_load_current": "360/180", "load.power": "140 hp"}
    assert "isolating" in p11(large).gate("protection.disconnect").sentence
    assert "horsepower" in p11().gate("protection.disconnect").sentence


@pytest.mark.parametrize(("tag", "times"), [("C-71", 1.40), ("G-21", 1.56)])
def test_a_protector_in_the_motor(tag, times):
    """430.32(A)(2): 170, 156 or 140 % by the table's amperes: 28 A and 11 A or so."""
    plan = planner("harrowmere-lock.json", tag)({"plate.thermal_protection": "AUTO"})
    amps = plan.figure("plate.table_current").value
    assert plan.figure("overload.protector").value == pytest.approx(times * amps)
    without = planner("harrowmere-lock.json", tag)({"plate.thermal_protection": "NONE"})
    assert without.figure("overload.protector") is None


@pytest.mark.parametrize(
    ("plate", "system", "column"),
    [
        ("230", "208Y/120", 208), ("230", "200", 200), ("230", "212", 212), ("230", "213", 230), ("230", "197", 230),
        ("230", "240", 230), ("460", "208Y/120", 460), ("208", "208Y/120", 208), ("220", "208Y/120", 208),
    ],
)  # fmt: skip
def test_a_230_volt_machine_on_a_208_volt_system_goes_by_the_systems_column(plate, system, column):
    assert column_volts(float(plate), float(system.partition("Y")[0])) == column


def test_the_smallest_ratings_are_fuses_alone():
    """NFPA 70:2023 240.6(A): 1, 3 and 6 A are fuses' further ratings (601 A aside); a breaker that is set has none."""
    nec = rule_set("nec")
    assert nec.ratings("dual-element")[:4] == (1.0, 3.0, 6.0, 10.0)
    assert not {1.0, 3.0, 6.0} & set(nec.ratings("inverse-time"))
    assert nec.ratings("inverse-time")[:3] == (10.0, 15.0, 20.0)
    assert nec.ratings("instantaneous") == ()


def test_a_switch_is_advised_for_its_fuses(p11):
    """96 A of table current ask 110 A; the fuses of 175 A behind it ask a switch of 200 A."""

    def said(**changes):
        return next(gate for gate in p11(changes).gates if gate.key == "protection.disconnect").sentence

    assert "for 175 A fuses" in said(**{"protection.disconnect": None})
    assert "fuses" not in said(**{"protection.disconnect": "200 A"})
    assert "fuses" not in said(**{"protection.disconnect": None, "protection.device_nec": "inverse-time"})


def test_the_first_peak_is_the_change_overs_where_that_is_higher():
    plan = planner("harrowmere-lock.json", "P-11")({"start.method": "wye-delta"})
    row = plan.comparison.row("wye-delta")
    assert plan.protected.first_a >= row.spike.peak_a / math.sqrt(2) - 1e-6
    direct = planner("harrowmere-lock.json", "P-11")({"start.method": "full-voltage"})
    assert direct.protected.first_a == pytest.approx(direct.figure("start.full.peak").value / math.sqrt(2), rel=1e-6)
    soft = planner("harrowmere-lock.json", "P-11")({"start.method": "soft-starter"})
    assert soft.protected.first_a == pytest.approx(soft.comparison.row("soft-starter").peak_a)


class TestAboveTheUsualRating:
    """430.52(C)(1) exception 2: by the start where it is known; a reason alone is to check while it is not."""

    @staticmethod
    def found(p11, rating, **facts):
        gate = p11({"protection.device_nec": "time-delay", "protection.rating": rating} | facts).gate(
            "protection.device"
        )
        assert gate.margin is None or (gate.margin >= 0) == (gate.verdict is Verdict.PASSES)
        return gate.verdict

    @pytest.mark.parametrize(
        ("rating", "reason", "verdict"),
        [("200 A", None, Verdict.UNKNOWN), ("200 A", "start", Verdict.CHECK), ("200 A", "adjacent", Verdict.UNKNOWN),
         ("175 A", None, Verdict.PASSES), ("250 A", "start", Verdict.FAILS)],
    )  # fmt: skip
    def test_while_the_start_is_not_known(self, p11, rating, reason, verdict):
        assert self.found(p11, rating, **{"load.kind": None, "protection.exception": reason}) is verdict

    def test_where_the_usual_one_opens_the_largest_is_the_limit(self, p11):
        """A start of a minute opens a usual 250 A breaker: 400 % of 96 A, next size down, are within the exception."""
        slow = {"start.method": "full-voltage", "load.inertia": "250 kg·m²", "protection.device_nec": "inverse-time"}
        found = [self.found(p11, rating, **slow) for rating in ("300 A", "350 A", "400 A")]
        assert found == [Verdict.PASSES, Verdict.PASSES, Verdict.FAILS]


@pytest.mark.parametrize(
    ("kind", "design", "said"),
    [("instantaneous", "B", True), ("instantaneous", "A", False), ("time-delay", "B", False)],
)
def test_design_b_is_energy_efficient_where_a_breaker_is_instantaneous(p11, kind, design, said):
    plan = p11({"protection.device_nec": kind, "plate.design_letter": design})
    assert ("1300 %" in plan.figure("protection.device_pct").source) is said


@pytest.mark.parametrize(
    ("amps", "service"), [("11.5", "1.0"), ("4.2", "1.0"), ("92", "1.15"), ("23.7", "1.0"), ("7.31", "1.25")]
)
def test_the_dial_that_is_advised_passes_as_it_is_written(amps, service):
    """10.58 A was written 10.6 A, which trips above what is allowed."""
    plan = planner("harrowmere-lock.json", "P-11")
    plate = {"plate.full_load_current": amps, "plate.service_factor": service, "plate.volts": "460"}
    advised = plan(plate).protected.device("overload").advised
    setting = plan(plate | {"protection.overload": advised}).gate("protection.setting")
    assert 0 <= setting.margin < 0.02 * setting.limit
    assert "will not start" not in setting.sentence
