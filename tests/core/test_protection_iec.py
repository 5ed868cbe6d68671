"""Devices by IEC 60364, 60269 and 60947: worked by hand from the standards' formulas, and what is refused."""

import itertools
import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import planner
from tests.examples import examples
from vinegate.core.grade import Verdict
from vinegate.core.records import replace
from vinegate.core.rules.iec.devices import ratings_of
from vinegate.core.rules.iec.laid import Laid
from vinegate.core.rules.iec.sizes import area_mm2
from vinegate.core.starter.stage import STARTER
from vinegate.core.tables import load

METHODS = ("A1", "A2", "B1", "B2", "C", "D1", "D2", "E", "F", "G")


@pytest.fixture(scope="session")
def h1():
    return planner("skerry-sound.json", "H-1")


def gate(plan, key):
    return plan.gate(f"protection.{key}")


def test_rated_setting_and_ampacity_stand_in_order(h1):
    """35 mm² XLPE copper on a wall: 147 A; at 45 °C and with two circuits 147 · 0.87 · 0.80 = 102.3 A."""
    plan = h1({"wiring.ambient": "45 °C", "wiring.grouped": "2"})
    assert plan.figure("wiring.ampacity").value == pytest.approx(147 * 0.87 * 0.8)
    assert gate(plan, "conductors").verdict is Verdict.PASSES
    hot = h1({"wiring.ambient": "45 °C", "wiring.grouped": "4"})  # 147 · 0.87 · 0.65 = 83.1 A
    assert hot.figure("wiring.ampacity").value == pytest.approx(147 * 0.87 * 0.65)
    full = h1({"wiring.ambient": "45 °C", "wiring.grouped": "5"})  # 76.7 A, below 81
    assert gate(full, "conductors").verdict is Verdict.FAILS
    assert full.protected.device("conductors").advised == "50 mm²"  # 179 · 0.87 · 0.60 = 93.4 A


def test_how_it_is_laid_being_assumed_leaves_the_gate_ajar(h1):
    plan = h1({"wiring.method": None})
    assert gate(plan, "conductors").verdict is Verdict.PASSES  # 35 mm² of XLPE carries it laid in any of the ways
    thin = gate(h1({"wiring.method": None, "wiring.size": "16 mm²"}), "conductors")
    assert (thin.verdict, thin.turns.path) == (Verdict.CHECK, "wiring.method")
    assert plan.figure("wiring.ampacity").provenance == "assumed"


def test_star_delta_shares(h1):
    plan = h1()
    assert plan.figure("protection.contactor_1").value == pytest.approx(0.58 * 81)
    assert plan.figure("protection.contactor_2").value == pytest.approx(0.33 * 81)
    assert plan.figure("wiring.motor_side").value == pytest.approx(81 / math.sqrt(3))


@pytest.mark.parametrize(("often", "share"), [(None, 33), ("12", 33), ("13", 40)])
def test_a_star_that_closes_often_is_chosen_larger(h1, often, share):
    """For as many amperes on its drawing as on this sheet."""
    plan = h1({"start.starts_per_hour": often})
    assert plan.figure("protection.contactor_2").value == pytest.approx(share / 100 * 81)
    assert plan.figure("protection.contactor_1").value == pytest.approx(0.58 * 81)
    star = next(part for part in plan.of(STARTER).parts if part.name == "star point")
    assert star.amps == pytest.approx(share / 100 * 81, rel=0.02)


def test_jogging_asks_the_other_category(h1):
    plan = h1({"start.method": "full-voltage", "protection.jogging": "yes"})
    assert plan.protected.device("starter").name == "Contactor, AC-4"


@pytest.mark.parametrize(
    ("method", "jogs", "category"),
    [("rotor-resistor", "no", "AC-2"), ("rotor-resistor", "yes", "AC-2"), ("full-voltage", "no", "AC-3")],
)
def test_through_slip_rings_a_contactor_is_of_its_own_category(h1, method, jogs, category):
    """Its first step bounds the current; with the rings shorted it draws as a cage does (IEC 60947-4-1 table 1)."""
    rings = {"plate.kind": "wound", "plate.rotor_volts": "240 V", "plate.rotor_current": "110 A"}
    found = h1(rings | {"start.method": method, "protection.jogging": jogs}).protected.device("starter")
    assert found.name == f"Contactor, {category}"


def test_relay_in_its_places(h1):
    assert h1({"protection.overload_place": "delta"}).figure("overload.advised").value == pytest.approx(81 / 3**0.5)
    assert h1({"protection.overload_place": "half"}).figure("overload.advised").value == pytest.approx(40.5)
    # 20 kvar at 400 V take 28.87 A of reactive current out of 81·√(1 − 0.85²) = 42.67 A; 68.85 A stay active
    plan = h1({"protection.overload_place": "capacitor", "protection.motor_capacitor": "20 kvar"})
    assert plan.figure("overload.advised").value == pytest.approx(math.hypot(68.85, 42.67 - 28.87), rel=1e-3)


@pytest.mark.parametrize("place", ["delta", "half", "capacitor"])
def test_a_place_the_machine_does_not_have(place):
    winch = planner("skerry-sound.json", "W-2")  # 230Δ/400Y on 400 V: it runs in star
    assert gate(winch({"protection.overload_place": place}), "place").verdict is Verdict.FAILS


def test_a_setting_off_the_rated_current_is_seen(h1):
    assert gate(h1({"protection.overload": "81 A"}), "setting").verdict is Verdict.PASSES
    assert gate(h1({"protection.overload": "84 A"}), "setting").verdict is Verdict.CHECK
    assert gate(h1({"protection.overload": "90 A"}), "setting").verdict is Verdict.FAILS
    assert gate(h1({"protection.overload": "70 A"}), "setting").verdict is Verdict.CHECK


def test_a_setting_outside_its_band(h1):
    band = {"protection.element_low": "60 A", "protection.element_high": "80 A"}
    assert gate(h1(band), "band").verdict is Verdict.FAILS
    assert gate(h1(band | {"protection.element_high": "85 A"}), "band").verdict is Verdict.PASSES


class TestEarthFault:
    """Disconnection by 60364-4-41."""

    def test_loop_by_hand(self, h1):
        """Source 5.03 + j20.77, run 49.12 + j6 mΩ, and back through 16 mm² for 35: 2.1875 times the resistance."""
        plan = h1()
        r, x = 5.034 + 49.125 * (1 + 35 / 16), 20.77 + 2 * 6.0
        assert plan.figure("wiring.loop").value == pytest.approx(math.hypot(r, x), rel=1e-3)
        fault = 0.9 * 1000 * 230.94 / math.hypot(r, x)  # c_min of 400 V ±10 %
        found = gate(plan, "loop")
        assert found.value == pytest.approx(fault, rel=1e-3)
        assert found.limit == 580  # a 100 A gG opens within 5 s from there
        assert found.verdict is Verdict.PASSES

    def test_final_circuits_up_to_32_amperes_have_less_time(self):
        plan = planner("skerry-sound.json", "K-5")()
        assert gate(plan, "loop").limit == pytest.approx(10 * 13 * 1.2)  # the magnetic release, for sure
        assert "0.4 s" in gate(plan, "loop").sentence

    @pytest.mark.parametrize(("ohms", "verdict"), [("100 Ω", "passes"), ("200 Ω", "fails"), (None, "not known")])
    def test_tt_by_the_residual_current(self, h1, ohms, verdict):
        tt = {"supply.earthing": "tt", "supply.residual": "300 mA", "supply.earth_resistance": ohms}
        assert gate(h1(tt), "loop").verdict == verdict

    def test_it_counts_the_second_fault(self, h1):
        tn, it = gate(h1(), "loop"), gate(h1({"supply.earthing": "it"}), "loop")
        assert it.value == pytest.approx(tn.value * math.sqrt(3) / 2)
        assert "first fault" in it.sentence

    def test_without_the_earthing_system_it_is_unknown(self, h1):
        plan = h1({"supply.earthing": None})
        assert gate(plan, "loop").verdict is Verdict.UNKNOWN
        assert "supply.earthing" in [missing.path for missing in plan.missing]


def test_adiabatic_by_hand(h1):
    """A 100 A gG lets through at most 1450² · 0.1 s = 0.210 kA²s; 35 mm² XLPE bears (143 · 35)² = 25 kA²s."""
    plan = h1()
    withstand = gate(plan, "withstand")
    assert withstand.value == pytest.approx(0.21025)
    assert withstand.limit == pytest.approx((143 * 35) ** 2 / 1e6)
    loop = 0.9 * 1000 * 230.94 / plan.figure("wiring.loop").value
    latest = plan.protected.band.latest_s(np.array([loop]))[0]
    asked = math.sqrt(loop**2 * latest) / 143
    assert gate(plan, "protective_withstand").limit == pytest.approx(asked, rel=1e-3)


def test_protective_conductor_below_the_table_is_to_be_looked_at(h1):
    assert gate(h1({"wiring.ground_size": "10 mm²"}), "grounding").verdict is Verdict.PASSES  # by 543.1.2
    assert "adiabatic equation allows it" in gate(h1({"wiring.ground_size": "10 mm²"}), "grounding").sentence
    assert gate(h1({"wiring.ground_size": "1.5 mm²"}), "grounding").verdict is Verdict.FAILS
    assert gate(h1({"wiring.ground_size": "16 mm²"}), "grounding").verdict is Verdict.PASSES


@examples(200)
@given(
    amps=st.floats(1, 500),
    metal=st.sampled_from(["copper", "aluminium"]),
    insulation=st.sampled_from(["pvc", "xlpe"]),
    method=st.sampled_from(METHODS),
    ambient=st.floats(0.4, 1.2),
    grouping=st.sampled_from([1.0, 0.8, 0.65, 0.5]),
)
def test_the_size_taken_carries_what_is_asked(amps, metal, insulation, method, ambient, grouping):
    run = Laid(metal=metal, insulation=insulation, method=method, ambient=ambient, grouping=grouping, sets=1)
    size = run.least(amps)
    if size is not None:
        assert run.ampacity(size) >= amps - 1e-6
        alone = replace(run, ambient=1.0, grouping=1.0).ampacity(size)
        twice = replace(run, sets=2, soil=0.8).ampacity(size)
        assert (run.ampacity(size), twice) == (
            pytest.approx(alone * ambient * grouping),
            pytest.approx(2 * 0.8 * alone * ambient * grouping),
        )  # IEC 60364-5-52: every factor takes its share away
        smaller = [row["size"] for row in load("ampacity_iec").rows
                   if (row["insulation"], row["metal"]) == (insulation, metal) and area_mm2(row["size"]) < area_mm2(size)]  # fmt: skip
        assert all((run.ampacity(one) or 0.0) < amps for one in smaller)  # the least of its own metal and insulation


@pytest.mark.slow
@pytest.mark.parametrize("device", ["gg", "am", "motor-breaker", "mcb-d"])
def test_a_bigger_motor_never_gets_a_smaller_device(h1, device):
    found = []
    for kw, amps in ((4, 8), (5.5, 10.6), (7.5, 14.3), (11, 21), (15, 28), (22, 41), (30, 55), (37, 67), (45, 81)):
        changes = {
            "plate.power": f"{kw} kW",
            "plate.full_load_current": f"{amps}/{amps / 3**0.5:.1f}",
            "plate.efficiency": None,
            "plate.power_factor": None,
            "plate.frame": None,
            "load.kind": None,
            "start.method": "full-voltage",
            "protection.device_iec": device,
        }
        devices = {one.key: one for one in h1(changes).protected.devices}
        found.append(
            (
                float(devices["device"].advised.split()[0]),
                float(devices["disconnect"].advised.split()[0]),
                float(devices["starter"].advised.split()[0]),
                area_mm2(devices["conductors"].advised),
            )
        )
    for smaller, larger in itertools.pairwise(found):
        assert all(a <= b for a, b in zip(smaller, larger, strict=True)), (smaller, larger)


@pytest.mark.parametrize(
    ("changes", "advised", "on_site"),
    [
        ({}, "40 A", False),  # 36 A, behind 40 A aM
        ({"protection.disconnect": "36 A"}, "40 A", True),
        ({"protection.disconnect": "36 A", "protection.device_iec": "mcb-d"}, "40 A", False),
    ],
)
def test_a_switch_takes_its_fuses_or_is_to_be_seen_to_on_site(changes, advised, on_site):
    plan = planner("skerry-sound.json", "W-2")(changes)
    assert plan.protected.device("disconnect").advised == advised
    assert plan.gate("protection.disconnect").verdict == "passes"
    assert ("protection.fuses_fit" in {gate.key for gate in plan.to_confirm}) is on_site


class TestAsMade:
    """Devices by what is made, at their volts."""

    def test_small_motors_get_small_fuses(self):
        """8.2 A needs a gG that holds its start; 2.1 A one of single figures."""
        small = {"plate.power": "0,75 kW", "plate.full_load_current": "1.9/1.1", "plate.speed": "1430 r/min",
                 "protection.device_iec": "gg", "load.power": "0,6 kW", "machine.inertia": "0.002 kg·m²"}  # fmt: skip
        device = planner("skerry-sound.json", "K-5")(small).protected.device("device")
        assert 1.9 <= float(device.advised.split()[0]) <= 10

    @pytest.mark.parametrize(("volts", "verdict"), [(None, "not known"), ("400 V", "fails"), ("690 V", "passes")])
    def test_a_contactor_is_rated_at_its_volts(self, h1, volts, verdict):
        """81 A at 690 V: amperes given for 400 V say nothing there."""
        facts = {"supply.volts": "690 V", "plate.volts": "690Δ", "plate.full_load_current": "47",
                 "protection.contactor": "65 A", "protection.contactor_volts": volts, "start.method": "full-voltage"}  # fmt: skip
        assert h1(facts).gate("protection.contactor_volts").verdict == verdict

    def test_at_400_volts_nothing_more_is_asked(self, h1):
        keys = {gate.key for gate in h1({"protection.contactor": "95 A"}).gates}
        assert "protection.contactor_volts" not in keys


@pytest.mark.parametrize(
    ("ratio", "contactor", "told"),
    [
        ("7.9", None, None),  # 50 A in the delta stand for 86.2 A in the line, and are tested to open 690 A there
        ("8.4", None, Verdict.PASSES),  # 680 of 81 A
        ("8.6", None, Verdict.UNKNOWN),  # 697
        ("8.6", "65 A", Verdict.PASSES),
    ],
)
def test_a_contactor_opens_eight_times_its_amperes(h1, ratio, contactor, told):
    """IEC 60947-4-1 table 7, AC-3; what draws more at rest is for AC-3e or a larger one: confirmed, not failed."""
    plan = h1({"plate.starting_current_ratio": ratio, "protection.contactor": contactor})
    found = [gate for gate in plan.gates if gate.key == "protection.category"]
    assert [gate.verdict for gate in found] == ([] if told is None else [told])
    assert not any(gate.weighs for gate in found)


@pytest.mark.parametrize("kind", ["gg", "am", "motor-breaker", "mcb-d"])
def test_the_device_that_is_advised_holds_the_most_that_the_start_may_draw(kind):
    """18.5 kW direct at 6.5 times, a fifth more allowed (IEC 60034-1 table 20): it holds both, and is not larger still."""
    w2 = planner("skerry-sound.json", "W-2")
    facts = {"protection.device_iec": kind, "protection.clears": None}
    plan = w2(facts)
    advised = plan.protected.device("device").advised
    rating = float(advised.removesuffix(" A"))
    assert gate(plan, "holds").verdict is Verdict.PASSES
    assert gate(w2(facts | {"plate.starting_current_ratio": "7.8"}), "holds").value < 100
    ratings = [one for one in ratings_of(kind) if 36 <= one < rating]
    for smaller in ratings[-1:]:
        there = gate(w2(facts | {"protection.rating": f"{smaller:g} A"}), "holds")
        assert there.verdict is not Verdict.PASSES, (kind, smaller)


def test_a_device_is_not_advised_larger_where_it_would_clear_a_fault_worse():
    """A long run of 16 mm²: 63 A would surely hold the start and not open in time; 50 A does, and may hold."""
    far = {"protection.device_iec": "gg", "protection.clears": None, "wiring.length": "440 m",
           "start.method": "full-voltage", "load.inertia": "1 kg·m²"}  # fmt: skip
    w2 = planner("skerry-sound.json", "W-2")
    plan, larger = w2(far), w2(far | {"protection.rating": "63 A"})
    assert plan.protected.device("device").advised == "50 A"
    assert [gate(plan, key).verdict for key in ("holds", "clears")] == [Verdict.CHECK, Verdict.PASSES]
    assert [gate(larger, key).verdict for key in ("holds", "clears")] == [Verdict.PASSES, Verdict.FAILS]


@pytest.mark.parametrize(
    ("length", "advised", "holds"),
    [
        ("270 m", "50 A", Verdict.PASSES),  # an earth fault draws 265 A: 50 A of gG opens within 5 s from 250 A
        ("290 m", "40 A", Verdict.CHECK),  # 247 A: 40 A opens in time from 190 A, and may open on the start
    ],
)
def test_nor_where_it_would_not_open_on_an_earth_fault(length, advised, holds):
    w2 = planner("skerry-sound.json", "W-2")
    plan = w2({"protection.device_iec": "gg", "protection.clears": None, "start.method": "full-voltage",
               "load.inertia": "0.4 kg·m²", "wiring.length": length})  # fmt: skip
    assert plan.protected.device("device").advised == advised
    assert (gate(plan, "holds").verdict, gate(plan, "loop").verdict) == (holds, Verdict.PASSES)
