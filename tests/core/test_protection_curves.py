"""Bands, holding a start, selectivity, what the time-current chart draws."""

import itertools
import math

import numpy as np
import pytest

from tests.conftest import planner
from vinegate.core.grade import Verdict
from vinegate.core.numbers import QuantityError
from vinegate.core.protection.bands import band_of, gg_ratings
from vinegate.core.protection.hold import hold
from vinegate.core.protection.selectivity import crossings
from vinegate.core.protection.upstream import read_device_curve
from vinegate.demo import demo_job
from vinegate.drawing.scene import Text
from vinegate.drawing.time_current import time_current_chart
from vinegate.web.stages.protection.devices import chart_data

KINDS = ["gg", "am", "motor-breaker", "mcb-d", "mcb-c", "mcb-b", "time-delay", "fuse", "class-cc", "inverse-time"]
AMPS = np.geomspace(60, 40000, 300)


@pytest.mark.parametrize("kind", KINDS)
def test_a_band_falls_with_current_and_its_sides_never_cross(kind):
    band = band_of(kind, 100)
    earliest, latest = band.earliest_s(AMPS), band.latest_s(AMPS)
    for side in (earliest, latest):
        finite = side[np.isfinite(side)]
        assert np.all(np.diff(finite) <= 1e-9), kind
    both = np.isfinite(latest)
    assert np.all(earliest[both] <= latest[both] + 1e-9), kind
    assert np.isinf(earliest[AMPS < 100]).all(), "the rating itself is carried for ever"


def test_gg_passes_through_its_gates():
    band = band_of("gg", 63)
    assert band.earliest_s(np.array([160.0, 450.0])) == pytest.approx([10, 0.1])
    assert band.latest_s(np.array([320.0, 820.0])) == pytest.approx([5, 0.1])
    assert band.sure_a(5.0) == pytest.approx(320)
    assert band.sure_a(0.4) == pytest.approx(820 * (320 / 820) ** (math.log(4) / math.log(50)))
    assert band_of("gg", 70) is None


def test_a_magnetic_release_trips_for_sure_twenty_percent_above_its_setting():
    band = band_of("motor-breaker", 10)
    assert band.pickup_a == pytest.approx((104, 156))
    assert np.isfinite(band.earliest_s(np.array([103.0, 104.1]))).all()
    assert band.earliest_s(np.array([104.1]))[0] == 0
    assert band.latest_s(np.array([156.0]))[0] == pytest.approx(0.02)
    assert band.sure_a(0.4) == pytest.approx(156)


def test_fuses_let_through_no_more_than_at_their_last_gate():
    band = band_of("gg", 100)
    assert band.let_through_a2s(10_000) == band.let_through_a2s(50_000) == pytest.approx(1450**2 * 0.1)


@pytest.mark.parametrize("kind", ["time-delay", "fuse", "inverse-time"])
@pytest.mark.parametrize("tag", ["P-11", "G-21", "R-31", "M-41", "B-42", "X-51", "D-61"])
def test_the_start_never_crosses_a_device_that_is_said_to_carry_it(kind, tag):
    """Full voltage: either its curve stays below the band's earliest edge, or the gate says that it is not sure."""
    plan = planner("harrowmere-lock.json", tag)({"protection.device_nec": kind, "start.method": "full-voltage"})
    gate = plan.gate("protection.holds")
    assert gate.verdict in (Verdict.PASSES, Verdict.CHECK)
    if "not sure" in gate.sentence:
        assert gate.verdict is Verdict.CHECK
        return
    found = chart_data(plan, _circuit("harrowmere-lock.json", tag), None)
    earliest = plan.protected.band.earliest_s(np.array([amps for amps, _ in found.start[:-2]]))
    assert all(seconds < limit for (_, seconds), limit in zip(found.start, earliest, strict=False))


def test_a_time_delay_fuse_holds_every_start_it_was_made_for():
    for tag in ("P-11", "G-21", "R-31", "M-41", "D-61"):
        plan = planner("harrowmere-lock.json", tag)(
            {"start.method": "full-voltage", "protection.device_nec": "time-delay"}
        )
        assert plan.gate("protection.holds").verdict is Verdict.PASSES, tag


def test_loops_of_small_breakers_are_those_of_the_published_table():
    """IEC 60364-4-41 at 230 V, 0.95·U_0 over 5, 10 or 20·I_n, as the wiring rules' tables print them, Ω."""
    printed = {
        "mcb-b": {10: 4.37, 16: 2.73, 25: 1.75, 32: 1.37}, "mcb-c": {10: 2.19, 16: 1.37, 25: 0.87, 32: 0.68},
        "mcb-d": {10: 1.09, 16: 0.68, 25: 0.44, 32: 0.34},
    }  # fmt: skip
    for kind, row in printed.items():
        for rating, ohms in row.items():
            assert 0.95 * 230 / band_of(kind, rating).sure_a(0.4) == pytest.approx(ohms, abs=0.0051), (kind, rating)


def test_a_small_breaker_of_type_c_is_larger_for_the_same_start_and_of_type_b_larger_yet():
    """Half, and less than a third, of type D's amperes trip it at once."""
    plan = planner("skerry-sound.json", "K-5")
    least = [
        plan({"start.method": "full-voltage", "protection.device_iec": f"mcb-{kind}"}).protected.band for kind in "dcb"
    ]
    assert least[0].rating_a < least[1].rating_a <= least[2].rating_a


@pytest.mark.parametrize("kind", ["gg", "am", "motor-breaker"])
def test_a_recommended_iec_device_is_never_crossed_by_the_start(kind):
    for tag in ("H-1", "W-2", "K-5", "P-4"):
        plan = planner("skerry-sound.json", tag)({"protection.device_iec": kind})
        assert plan.gate("protection.holds").verdict in (Verdict.PASSES, Verdict.CHECK), (tag, kind)
        found = chart_data(plan, _circuit("skerry-sound.json", tag), None)
        band = plan.protected.band
        for amps, seconds in found.start[:-2]:
            assert seconds < band.earliest_s(np.array([amps]))[0], (tag, kind, amps, seconds)


def _circuit(file, tag):
    from vinegate.core.facts import read_circuit
    from vinegate.demo import demo_job

    return read_circuit(dict(demo_job(file).circuits)[tag], demo_job(file).rules)[0]


def test_a_gg_fuse_too_small_for_the_start_is_shut(h1):
    plan = h1({"start.method": "full-voltage", "protection.rating": "63 A"})
    assert plan.gate("protection.device").verdict is Verdict.FAILS  # below the rated current, too
    heavy = planner("skerry-sound.json", "W-2")(
        {"protection.device_iec": "gg", "load.inertia": "3 kg·m²", "start.method": "full-voltage"}
    )
    assert float(heavy.protected.device("device").advised.split()[0]) > 40
    small = planner("skerry-sound.json", "W-2")(
        {
            "protection.device_iec": "gg",
            "load.inertia": "3 kg·m²",
            "start.method": "full-voltage",
            "protection.rating": "40 A",
        }
    )
    assert small.gate("protection.holds").verdict is Verdict.FAILS


def test_heating_adds_up_in_proportion(h1):
    """At a steady current the share used is time over the least opening time at that current."""
    from dataclasses import replace

    plan = h1({"start.method": "full-voltage"})
    detail = plan.comparison.detail
    flat = replace(detail, time_s=(0.0, 2.5, 5.0), line_a=(290.0, 290.0, 290.0))

    class Seen:
        used, peak, locked = None, None, None

    Seen.detail = flat
    assert hold(Seen, band_of("gg", 100)).share == pytest.approx(0.5)  # a 100 A gG carries 290 A for 10 s


def test_peak_and_spike_against_a_magnetic_release(p11):
    low = p11(
        {"start.method": "full-voltage", "protection.device_nec": "inverse-time", "start.instantaneous_trip": "800 A"}
    )
    assert low.gate("protection.holds").verdict is Verdict.FAILS
    assert "trips from 640 A" in low.gate("protection.holds").sentence
    peak = low.figure("start.full.peak").value / math.sqrt(2)
    assert f"peak {peak:.0f} A" in low.gate("protection.holds").sentence
    high = p11(
        {"start.method": "full-voltage", "protection.device_nec": "inverse-time", "start.instantaneous_trip": "1500 A"}
    )
    assert high.gate("protection.holds").verdict is Verdict.PASSES


def test_class_above_the_start_and_below_the_stall(p11):
    plan = p11({"machine.stall_hot": "16 s", "start.method": "full-voltage"})
    assert plan.gate("protection.class").verdict is Verdict.PASSES
    assert plan.gate("protection.stall").verdict is Verdict.PASSES
    slow = p11({"machine.stall_hot": "16 s", "start.method": "full-voltage", "protection.trip_class": "30"})
    assert slow.gate("protection.stall").verdict is Verdict.CHECK
    never = p11({"machine.stall_hot": "8 s", "start.method": "full-voltage", "protection.trip_class": "40"})
    assert never.gate("protection.stall").verdict is Verdict.FAILS
    heavy = planner("harrowmere-lock.json", "X-51")({"start.method": "full-voltage", "protection.trip_class": "10"})
    assert heavy.gate("protection.class").verdict is not Verdict.PASSES


def test_an_uncompensated_relay_in_the_heat(p11):
    plan = p11({"protection.compensated": "no", "protection.relay_ambient": "55 °C"})
    gate = plan.gate("protection.ambient")
    assert gate.verdict is Verdict.FAILS  # the pump house stays at 30 °C: the relay trips long before
    near = p11({"protection.compensated": "no", "protection.relay_ambient": "42 °C"}).gate("protection.ambient")
    assert (near.verdict, near.turns.path) == (Verdict.CHECK, "protection.relay_ambient")
    assert f"{100 * math.sqrt(45 / 60):.0f} %" in gate.sentence
    same = {"protection.motor_ambient": "55 °C", "protection.compensated": "no", "protection.relay_ambient": "55 °C"}
    assert p11(same).gate("protection.ambient").verdict is Verdict.PASSES
    nowhere = p11({"protection.compensated": "no", "place.motor": None, "protection.relay_ambient": "30 °C"})
    assert nowhere.gate("protection.ambient").needs == ("ambient at the motor",)


UPSTREAM = "amperes, seconds\n400, 2000\n1000, 60\n3000, 4\n12000, 0.2"


def test_upstream_curve_is_read_as_people_write_it():
    curve = read_device_curve("A;s\n400;1000\n1 000;20,5\n4000;0,1")
    assert curve.amperes == (400, 1000, 4000)
    assert curve.at(np.array([1000.0, 300.0])) == pytest.approx([20.5, math.inf])
    assert read_device_curve("400 1000\n1000 20\n4000 0.1").seconds == (1000, 20, 0.1)
    other = read_device_curve("I [kA]; t [ms]\n0.4; 1000000\n1; 20500\n4; 100")
    assert (other.amperes, other.seconds) == (curve.amperes, pytest.approx(curve.seconds))
    assert read_device_curve("I (kA), t (s)\n0.4, 1000\n1, 20.5\n4, 0.1").amperes == curve.amperes


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("400,10", "too few"),
        ("400,10\n300,5\n500,1", "amperes rise"),
        ("400,10\n500,x\n600,1", "Row 2"),
        ("× In;s\n4,10\n5,3\n6,1", "In"),
        ("400,10,1\n500,3\n600,1", "Row 1 of the curve has 3 values"),
        ("400,10\n500,0\n600,0", "above zero"),
    ],
)
def test_a_curve_that_cannot_be_read_says_where(text, words):
    with pytest.raises(QuantityError, match=words):
        read_device_curve(text)


def test_crossings_are_where_the_curves_meet():
    band, curve = band_of("gg", 100), read_device_curve("300,5000\n600,100\n900,0.5\n20000,0.02")
    found = crossings(band, curve, 11_000)
    assert found
    for amps, seconds in found:
        assert band.latest_s(np.array([amps]))[0] == pytest.approx(seconds, rel=0.05)
        assert curve.at(np.array([amps]))[0] == pytest.approx(seconds, rel=0.05)


def test_the_chart_marks_where_the_curves_cross(h1):
    from dataclasses import replace

    circuit = _circuit("skerry-sound.json", "H-1")
    text = "300,5000\n600,100\n900,0.5\n20000,0.02"
    seen = replace(
        circuit, protection=circuit.protection.model_copy(update={"upstream": read_device_curve(text)})
    )  # fmt: skip
    plan = h1({"protection.upstream": text})
    found = chart_data(plan, seen, None)
    assert found.crossings
    assert f"cross at {found.crossings[0][0]:.0f} A" in plan.gate("protection.upstream").sentence


def test_selectivity_is_a_gate(h1):
    slow = "1000, 6000\n3000, 200\n12000, 1"
    assert h1({"protection.upstream": slow}).gate("protection.upstream").verdict is Verdict.PASSES
    quick = "120, 100\n300, 1\n1000, 0.01\n12000, 0.001"
    assert h1({"protection.upstream": quick}).gate("protection.upstream").verdict is Verdict.FAILS
    between = h1({"protection.upstream": UPSTREAM.replace("3000, 4", "1200, 0.2").replace("12000, 0.2", "12000, 0.01")})
    assert "cross at" in between.gate("protection.upstream").sentence


def test_far_fault_by_hand(p11):
    """Source 5.093 + j23.25 and run 24.41 + j11.19 mΩ at 480 V."""
    z = math.hypot(5.093 + 24.41, 23.25 + 11.19)
    assert p11().figure("protection.far_fault").value == pytest.approx(480 / 3**0.5 / z, rel=1e-3)


def test_drop_while_running_by_hand(p11):
    drop = math.sqrt(3) * 92 * (24.41 * 0.81 + 11.19 * math.sqrt(1 - 0.81**2)) / 480 / 10
    assert p11().figure("wiring.drop").value == pytest.approx(drop, rel=1e-3)


def test_the_next_size_has_its_worth(p11):
    """2/0 for 1/0 in steel: 0.10 for 0.12 Ω/kft; 3 · 92² · 0.02441 Ω · (1 − 0.10/0.12) = 103 W."""
    (note,) = [note for note in p11().stage("wiring").notes if note.startswith("Next size")]
    assert "2/0 AWG: 103 W" in note
    assert "310 kWh" in note


def test_ratings_ascend():
    assert all(low < high for low, high in itertools.pairwise(gg_ratings()))


@pytest.mark.parametrize("file", ["harrowmere-lock.json", "skerry-sound.json"])
def test_no_name_on_the_chart_stands_on_another(file):
    """By their letters, six and a half wide and fourteen high; those of the lines, which move with the circuit."""
    for tag, _ in demo_job(file).circuits:
        plan = planner(file, tag)()
        names = {
            "overload": "overload, class 10",
            "device": "175 A time-delay fuse, generic",
            "damage": "1/0 AWG is damaged",
        }
        scene = time_current_chart(chart_data(plan, _circuit(file, tag), None), names=names, dial=None, rating=None,
                                   trip=None)  # fmt: skip
        boxes = [
            (x - 6.5 * len(one.text), x, y) if one.anchor == "end" else (x, x + 6.5 * len(one.text), y)
            for one in scene.shapes
            if isinstance(one, Text) and one.text in names.values()
            for x, y in (one.at,)
        ]
        for one, other in itertools.combinations(boxes, 2):
            assert one[1] <= other[0] or other[1] <= one[0] or abs(one[2] - other[2]) >= 14, (tag, boxes)


def test_where_two_curves_cross_both_say_the_same_time(h1):
    text = UPSTREAM.replace("3000, 4", "1200, 0.2").replace("12000, 0.2", "12000, 0.01")
    band, curve = h1().protected.band, read_device_curve(text)
    found = crossings(band, curve, 20e3)
    assert found
    for amps, seconds in found:
        assert float(band.latest_s(np.array([amps]))[0]) == pytest.approx(seconds, rel=0.02)


@pytest.mark.parametrize(("asked", "verdict"), [(None, "check"), ("500 A", "passes"), ("11 kA", "fails")])
def test_selective_up_to_what_is_asked_of_it(h1, asked, verdict):
    """The curves cross in between: enough for one who asks that much, too little for more; who asks not may want all."""
    upstream = UPSTREAM.replace("3000, 4", "1200, 0.2").replace("12000, 0.2", "12000, 0.01")
    gate = h1({"protection.upstream": upstream, "protection.selective_to": asked}).gate("protection.upstream")
    assert 500 < gate.value < 11e3
    assert gate.verdict.value == verdict


@pytest.mark.parametrize(
    ("bears", "sensors", "verdict", "weighs"),
    [("3 s", None, "fails", True), ("3 s", "no", "fails", True), ("3 s", "yes", "not known", False),
     ("20 s", "yes", "passes", True)],
)  # fmt: skip
def test_thermistors_take_over_a_stall_that_the_relay_is_too_slow_for(p11, bears, sensors, verdict, weighs):
    """For the checklist, by the code on the machine: no approval, and nothing where the relay does it."""
    plan = p11({"machine.stall_hot": bears, "machine.stall_cold": "28 s", "protection.trip_class": "10",
                "protection.thermistor": sensors})  # fmt: skip
    gate = plan.gate("protection.stall")
    assert (gate.verdict, gate.weighs) == (verdict, weighs)
    assert ("TP 111" in gate.sentence) is (not weighs)


@pytest.mark.parametrize(
    ("stamped", "bears", "verdict", "weighs"),
    [("MAN", "3 s", "not known", False), ("thermally protected", "3 s", "not known", False), ("NONE", "3 s", "fails", True),
     ("3 PTC", "3 s", "fails", True), ("TP 211", "3 s", "fails", True), ("MAN", "20 s", "passes", True)],
)  # fmt: skip
def test_a_protector_in_the_machine_opens_a_stall_by_itself(p11, stamped, bears, verdict, weighs):
    """Sensors open nothing by themselves, nor does a category of them."""
    plan = p11({"machine.stall_hot": bears, "machine.stall_cold": "28 s", "protection.trip_class": "10",
                "plate.thermal_protection": stamped, "protection.reset": "manual"})  # fmt: skip
    gate = plan.gate("protection.stall")
    assert (gate.verdict, gate.weighs) == (verdict, weighs)
