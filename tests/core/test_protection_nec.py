"""Devices by NFPA 70: its own worked example, the ladder of horsepower, and what is refused."""

import itertools

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import planner
from tests.core.good import GOOD
from tests.examples import examples
from vinegate.core.facts import RuleSetName, read_job
from vinegate.core.grade import Kind, Verdict
from vinegate.core.protection.feeder import feeders
from vinegate.core.protection.members import Member
from vinegate.core.rules.nec.conductors import Laid, area_cmil
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
    small = {"plate.power": "25 hp", "plate.full_load_current": "64/32", "wiring.size": "8 AWG"}
    assert p11(small | {"plate.design_letter": None}).figure("wiring.terminals").value == 60
    assert p11(small).figure("wiring.terminals").value == 75  # design B


def test_terminals_for_more_than_1_awg_bear_75_degrees(p11):
    """NFPA 70 110.14(C)(1)(b): what takes 1/0 is no terminal of 14 to 1 AWG. Table 310.16, aluminium of 75 °C:
    1 AWG 85 and 100 A, 1/0 100 and 120 A, of 1.25 x 83 A (between 77 A of 60 hp and 96 A of 75 hp).
    """
    run = {"plate.power": "65 hp", "plate.full_load_current": "166/83", "wiring.metal": "aluminium"}
    unlettered = run | {"plate.design_letter": None}
    for size, terminals, carries, verdict in (
        ("1 AWG", 60, 85, Verdict.FAILS), ("1/0 AWG", 75, 120, Verdict.PASSES),
    ):  # fmt: skip
        plan = p11(unlettered | {"wiring.size": size})
        assert plan.figure("wiring.terminals").value == terminals
        assert plan.figure("wiring.ampacity").value == carries
        assert plan.gate("protection.conductors").verdict is verdict, plan.gate("protection.conductors").sentence
    row = next(one for one in plan.protected.devices if one.key == "conductors")
    assert row.advised == "1/0 AWG"
    marked = p11(unlettered | {"wiring.size": "1/0 AWG", "wiring.terminals": "60"})
    assert marked.figure("wiring.ampacity").value == 100


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
        dial = {"protection.overload_habit": "dial"}
        assert gate(p11({"protection.overload": "105 A"} | dial), "setting").verdict is Verdict.FAILS

    def test_the_other_habit_names_the_trip_current(self, p11):
        by_element = {"protection.overload_habit": "element"}
        assert p11(by_element).protected.device("overload").advised == "115 A"
        assert gate(p11(by_element | {"protection.overload": "115 A"}), "setting").verdict is Verdict.PASSES
        assert gate(p11(by_element | {"protection.overload": "130 A"}), "setting").verdict is Verdict.FAILS

    def test_automatic_reset_where_a_restart_may_injure(self, p11):
        assert gate(p11({"protection.reset": "automatic"}), "reset").verdict is Verdict.FAILS
        harmless = {"protection.reset": "automatic", "protection.restart_harmless": "yes"}
        assert gate(p11(harmless), "reset").verdict is Verdict.PASSES

    @pytest.mark.parametrize(
        ("name", "stamped", "asked"),
        [("NEC, line to neutral", None, True), ("NEC, line to neutral", "none", False), ("NEC, direct", None, False)],
    )
    def test_of_one_phase_it_is_looked_for_where_none_is_said(self, name, stamped, asked):
        plan = GOOD[name]({"plate.thermal_protection": stamped})
        found = {one.key: one for one in plan.gates}
        assert ("protection.own_protector" in found) is asked
        assert not asked or found["protection.own_protector"].kind is Kind.CONFIRM

    def test_a_protector_that_resets_by_itself(self, p11):
        """In the line of a single-phase machine, or in the star of a small one, it starts it; in a control circuit of
        three wires, as of a large one, it does not.
        """
        auto = {"plate.thermal_protection": "AUTO"}
        harmless, hurts = ({"protection.restart_harmless": word} for word in ("yes", "no"))
        tags = ("C-71", "R-31", "G-21", "M-41")
        single, small, largest, larger = (planner("harrowmere-lock.json", tag) for tag in tags)
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
            (largest, auto | hurts, Verdict.FAILS),  # 7 1/2 hp: usually made in the star up to there
            (larger, auto | hurts, Verdict.PASSES),  # 15 hp
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
        assert gate(full, "halves").verdict is Verdict.UNKNOWN  # nobody said where its overload stands
        in_line = p11(part | {"protection.rating": "350 A", "protection.overload_place": "line"})
        assert gate(in_line, "halves").verdict is Verdict.FAILS
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
