"""Edges of the drive's rules, each worked by hand from its standard: what a winding bears, when it must be watched."""

import math

import numpy as np
import pytest

from tests.conftest import planner, whole
from vinegate.core.drive.cooling import Cooling
from vinegate.core.drive.cycle import Part, warmest
from vinegate.core.drive.envelope import Law, envelope_of
from vinegate.core.drive.stage import DRIVE
from vinegate.core.grade import Verdict

FAN = planner("skerry-sound.json", "F-3")
DRUM = planner("skerry-sound.json", "D-6")


@pytest.mark.parametrize(
    ("winding", "peak"),
    [
        ("mg1-31", 3.1 * 400),  # MG 1 31.4.4.2, up to 600 V: 3.1 times rated
        ("ivic-a", 1.1 * 1.1 * math.sqrt(2) * 400),  # IEC 60034-18-41: the class' factor on the bus at 10 % high line
        ("ivic-b", 1.5 * 1.1 * math.sqrt(2) * 400),
        ("ivic-c", 2.0 * 1.1 * math.sqrt(2) * 400),
        ("ivic-d", 2.5 * 1.1 * math.sqrt(2) * 400),
        ("general", 1000.0),
    ],
)
def test_what_a_winding_bears_is_its_class_times_the_volts(winding, peak):
    assert FAN({"drive.winding": winding}).figure("drive.winding_v").value == pytest.approx(peak, rel=1e-6)


def test_above_six_hundred_volts_part_31_bears_two_times_and_a_little():
    """MG 1 31.4.4.2: 2.04 times rated above 600 V."""
    high = {"plate.volts": "690Δ", "supply.volts": "690 V", "drive.winding": "mg1-31"}
    assert FAN(high).figure("drive.winding_v").value == pytest.approx(2.04 * 690, rel=1e-6)


def thermal(**changes):
    found = DRUM({"protection.thermistor": "no", "drive.speed_aware": "no"} | changes)
    return next((gate.verdict for gate in found.gates if gate.key == "drive.thermal"), None)


def test_a_winding_is_watched_below_half_speed_at_more_than_half_its_torque():
    rated = DRUM().figure("plate.speed")
    assert rated is not None
    assert thermal(**{"drive.points": "100 %\n45 %"}) is Verdict.FAILS
    assert thermal(**{"drive.points": "100 %\n60 %"}) is None
    assert thermal(**{"drive.points": "100 %\n45 %; 20 %"}) is None


def test_one_that_knows_the_speed_watches_one_motor_and_no_more():
    slow = {"drive.points": "100 %\n45 %", "drive.speed_aware": "yes"}
    assert thermal(**slow) is Verdict.PASSES
    assert thermal(**slow, **{"drive.motors": "2"}) is not Verdict.PASSES


def marched(parts, constant_s, rounds=60):
    """The rise over a repeated cycle, stepped by Euler in small parts until it repeats."""
    rise, most = 0.0, 0.0
    for number in range(rounds):
        for part in parts:
            step = part.seconds / 2000
            for _ in range(2000):
                rise += step * (part.losses - part.cooling * rise) / constant_s
                most = max(most, rise) if number == rounds - 1 else most
    return most


@pytest.mark.parametrize(
    "parts",
    [
        [(2.0, 1.0, 60.0), (0.1, 1.0, 120.0)],
        [(1.5, 0.3, 200.0), (0.2, 1.0, 900.0), (1.0, 1.0, 300.0)],
        [(0.5, 0.5, 400.0)],
    ],
)
def test_the_rise_of_a_cycle_is_that_of_a_march(parts):
    parts = [Part(losses=losses, cooling=cooling, seconds=seconds) for losses, cooling, seconds in parts]
    assert warmest(parts, 600.0) == pytest.approx(marched(parts, 600.0), rel=2e-3)


def test_below_its_base_a_motor_slips_by_the_same_turns_a_frequency():
    """Rated slip in turns goes with the flux' law: at k it turns at k·n_s·(1 − s) below the base, at k·n_s − s·n_s above."""
    supplied = FAN().of(DRIVE).driven.supplied
    drawn = envelope_of(supplied, 1.5)
    for k, speed in zip(drawn.k, drawn.speed_rpm, strict=True):
        slips = supplied.slip * min(k, 1.0)
        assert speed == pytest.approx(max(k - slips, 0.0) * supplied.synchronous_rpm, rel=1e-9)
    at_base = float(np.interp(1.0, drawn.k, drawn.speed_rpm))
    assert at_base == pytest.approx(2955, abs=3)  # the plate's


def lines(plan):
    return {one.name: (one.value, one.unit) for one in plan.of(DRIVE).driven.parameters}


def test_what_is_set_is_what_the_other_sheets_say():
    """By F-3's own facts: 53 A, 400 V, 50 Hz, 2955 r/min; its ramps, its overload in per cent of the drive."""
    found = FAN()
    said, driven = lines(found), found.of(DRIVE).driven
    assert (said["Motor volts"], said["Motor amperes"]) == (("400", "V"), ("53", "A"))
    assert (said["Motor frequency"], said["Poles"][0]) == (("50", "Hz"), "2")
    assert said["Ramp up"][1] == "s"
    assert said["Ramp down"][1] == ("s" if driven.ramps.down_s is not None else "")
    assert float(said["Ramp down"][0]) == pytest.approx(driven.ramps.down_s, rel=0.01)
    assert float(said["Current limit, motoring"][0]) == pytest.approx(100 * driven.rating.overload)
    assert said["Restart tries"][0] == "0"
    assert lines(FAN({"drive.power_back": "auto"}))["Restart tries"][0].startswith("3")
    coasts = FAN({"stop.method": "coast", "stop.drive_ramp": None})
    assert lines(coasts)["Ramp down"] == ("coasts", "")


@pytest.mark.parametrize("square", [False, True])
def test_volts_by_frequency_begin_with_the_boost_and_end_with_the_plates(square):
    """U = U_b + (U_N − U_b)·k, or by k² where the curve is square; never above what the drive can give."""
    law = Law(vector=False, square=square, boost_v=20.0, plate_v=400.0, most_v=390.0)
    for k in (0.0, 0.25, 0.5, 0.9):
        risen = k**2 if square else k
        assert float(law.volts(np.array([k]))[0]) == pytest.approx(min(20 + 380 * risen, 390.0))
    assert float(law.volts(np.array([1.0]))[0]) == 390.0
    assert float(law.volts(np.array([1.5]))[0]) == 390.0


def test_a_start_by_a_drive_is_held_to_what_that_drive_gives():
    """F-3's drive: 61 A at 110 % over 53 A of the plate; without one that is known, the limit that is set."""
    row = whole("skerry-sound.json", "F-3")().comparison.row("drive")
    assert row.setting.endswith(f"{61 * 1.1 / 53:.3g} ×")
    other = whole("harrowmere-lock.json", "P-11")({"start.drive_limit": "1.3"}).comparison.row("drive")
    assert other.setting.endswith("1.3 ×")


@pytest.mark.parametrize("k", [0.2, 0.5, 0.8, 1.0])
def test_with_its_own_blower_the_losses_are_shed_alike_at_every_speed(k):
    """Of rated losses 65 % go with the current's square, 20 % with k^1.5, 15 % with k where no fan is on the shaft."""
    blower = Cooling(kind="blower", at_rest=1, exponent=1, bears=1, derate=1, full_from_hz=None, assumed=False)
    left = 1 - 0.20 * k**1.5 - 0.15 * k
    assert float(blower.current_pu(np.array([k]))[0]) == pytest.approx(min(math.sqrt(left / 0.65), 1.0))


def test_above_rated_speed_the_flux_falls_and_the_fans_own_power_grows():
    """At 1.2 times: core losses 0.20·1.2^1.5/1.2², windage 0.15·1.2³, cooled 1.2 times as well by its own fan."""
    fan = Cooling(kind="fan", at_rest=0.2, exponent=1, bears=1, derate=0.95, full_from_hz=None, assumed=False)
    left = (0.2 + 0.8 * 1.2) - 0.20 * 1.2**1.5 / 1.44 - 0.15 * 1.2**3
    assert float(fan.current_pu(np.array([1.2]))[0]) == pytest.approx(0.95 * min(math.sqrt(left / 0.65), 1.0))
    warm = Cooling(kind="fan", at_rest=0.2, exponent=1, bears=1.3125, derate=1, full_from_hz=None, assumed=False)
    at_half = math.sqrt((0.6 * 1.3125 - 0.20 * 0.5**1.5 - 0.15 * 0.125) / 0.65)
    assert float(warm.current_pu(np.array([0.5]))[0]) == pytest.approx(min(at_half, 1.0))


@pytest.mark.parametrize("k", [0.1, 0.5, 0.9, 1.0, 1.2, 1.8])
def test_one_that_is_not_said_bears_no_more_than_any_kind(k):
    """Slowly its own fan gives the least; above rated speed one without a fan has the less."""
    kinds = [Cooling(kind=kind, at_rest=rest, exponent=1, bears=1.1, derate=1, full_from_hz=None, assumed=assumed)
             for kind, rest, assumed in (("fan", 0.2, True), ("fan", 0.2, False), ("open", 0.3, False), ("none", 1, False))]  # fmt: skip
    unsaid, *said = (float(one.current_pu(np.array([k]))[0]) for one in kinds)
    assert unsaid == pytest.approx(min(said))


def test_a_makers_word_rules_from_its_frequency_up():
    said = Cooling(kind="fan", at_rest=0.2, exponent=1, bears=1, derate=0.95, full_from_hz=10.0, assumed=False)
    found = said.current_pu(np.array([0.1, 0.2, 0.5]), np.array([5.0, 10.0, 25.0]))
    assert found[1] == found[2] == 1.0
    assert found[0] < 0.95
    assert said.band == 0.0


@pytest.mark.parametrize(
    ("text", "watched"),
    [
        ("TP211", False),  # sensors, as the next: wired to nothing, as far as is said
        ("3 PTC", False),
        ("thermally protected", True),
        ("automatic", True),
        ("NONE", False),
        ("no", False),
        (None, False),
        ("IMP", False),
        ("as ordered", False),
    ],
)
def test_what_watches_the_winding_is_a_protector_that_there_is(text, watched):
    plan = planner("skerry-sound.json", "F-3")({"plate.thermal_protection": text, "protection.thermistor": None})
    assert (plan.gate("protection.overtemperature").verdict is Verdict.PASSES) is watched


@pytest.mark.parametrize(
    ("tag", "changes", "watched"),
    [
        ("F-3", {"drive.speed_aware": "yes"}, True),
        ("F-3", {"drive.speed_aware": "no"}, False),
        ("F-3", {"plate.thermal_protection": "3 PTC", "protection.thermistor": "yes"}, True),
        ("P-4", {"drive.speed_aware": "yes"}, False),  # three motors on it: it knows the sum alone
    ],
)
def test_a_drive_that_knows_the_speed_watches_one_motor(tag, changes, watched):
    plan = planner("skerry-sound.json", tag)({"protection.thermistor": None, **changes})
    assert (plan.gate("protection.overtemperature").verdict is Verdict.PASSES) is watched


@pytest.mark.parametrize(
    ("changes", "verdict"),
    [
        ({"stop.drive_ramp": "400 s"}, Verdict.PASSES),
        ({"stop.drive_ramp": "120 s"}, Verdict.UNKNOWN),  # losses may not take it: what the drive bears is asked
        ({"stop.drive_ramp": "400 s", "load.kind": "hoist", "load.force": "4 kN", "load.line_speed": "5 m/s",
          "load.power": None, "drive.points": None}, Verdict.UNKNOWN),
        ({"stop.drive_ramp": "120 s", "stop.drive_least": "12 Ω"}, Verdict.PASSES),
    ],
)  # fmt: skip
def test_a_long_ramp_needs_no_resistor(changes, verdict):
    """6.62 kg·m² from 2955 r/min in 400 s ask 5.1 N·m; the least losses are 1.9 N·m at speed, 2.6 N·m at half of it,
    where the fan itself asks 21 N·m, and 5.2 N·m at a sixth.
    """
    off = {"stop.drive_least": None, "stop.resistor": None, "stop.resistor_power": None}
    assert planner("skerry-sound.json", "F-3")(off | changes).gate("stop.ohms").verdict is verdict


@pytest.mark.parametrize(
    ("points", "speeds"), [("100 %; ; 4000", "50 Hz"), ("100 %; ; 2000 | 60 %; ; 2000", "29.8 to 50 Hz")]
)
def test_its_station_tells_the_speeds_it_works_at(points, speeds):
    plan = planner("skerry-sound.json", "F-3")({"drive.points": points})
    assert next(one.number for one in plan.stations if one.key == "drive") == speeds
