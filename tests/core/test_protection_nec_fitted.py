"""What is fitted by the National Electrical Code: grounding, starters, switches, terminals, and behind a drive."""

import math
import re
from typing import ClassVar

import pytest

from tests.conftest import planner
from vinegate.core.grade import Verdict
from vinegate.core.protection.ratings import standard_ratings
from vinegate.core.rules.nec.table_current import column_volts
from vinegate.core.rules.sets import rule_set
from vinegate.core.tables import load


def gate(plan, key):
    return plan.gate(f"protection.{key}")


@pytest.fixture(scope="session")
def p11():
    return planner("harrowmere-lock.json", "P-11")


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
    large = p11({"protection.electronic": "470 A"})  # 92 A are a fifth of 460
    assert gate(large, "starter_size").verdict is Verdict.CHECK
    assert "protection.starter_size" not in {one.key for one in p11({"protection.electronic": "450 A"}).gates}
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


def test_a_setting_that_is_advised_holds_with_the_least_power_factor_that_is_estimated(p11):
    """The smaller it is, the more is the first cycle offset: 1 + e^(−π·R/X)."""
    changes = {"protection.device_nec": "instantaneous", "start.method": "full-voltage"}
    plan = p11(changes)
    advised, low = (
        plan.protected.device("device").advised,
        re.search(r"Between (0\.\d+)", plan.figure("machine.pf").note)[1],
    )
    peaks = [
        p11(changes | {"start.locked_rotor_power_factor": said}).figure("start.full.peak").value
        for said in ("0.264", low)
    ]
    assert peaks[1] > 1.02 * peaks[0]
    assert float(advised.split()[0]) * 0.8 > peaks[1] / math.sqrt(2) > (float(advised.split()[0]) - 20) * 0.8
    between = p11(changes | {"protection.rating": f"{math.ceil(peaks[0] / math.sqrt(2) / 0.8) + 1} A"}).gate(
        "protection.holds"
    )
    assert between.verdict is not Verdict.PASSES


def test_the_instantaneous_setting_is_the_least_that_holds(p11):
    """A release that may trip 20 % below its mark: peak over √2 over 0.8, in tens; not the ceiling of 800 %."""
    changes = {"protection.device_nec": "instantaneous", "start.method": "full-voltage",
               "start.locked_rotor_power_factor": "0.26"}  # fmt: skip
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
