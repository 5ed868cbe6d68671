"""The record held against the plan: unbalance, insulation, vibration, settings; by hand and on both sides of each edge."""

import cmath
import math
from functools import cache

import pytest

from tests.conftest import planner
from vinegate.core.facts import read_circuit
from vinegate.core.grade import Kind, Verdict
from vinegate.core.plan import NOTHING, plan_raw
from vinegate.core.record.insulation import MEGOHM, factor_40, least_ohm
from vinegate.core.record.stage import RECORD, record_verdict
from vinegate.core.record.unbalance import derating, deviation_pct, negative_pct
from vinegate.core.summary import record_of
from vinegate.core.work import Kept
from vinegate.demo import demo_job


@cache
def unmeasured(tag):
    """Its job, its facts without what was measured, and what of its plan is kept from one record to the next."""
    jobs = [demo_job(name) for name in ("harrowmere-lock.json", "skerry-sound.json")]
    found = next(job for job in jobs if tag in dict(job.circuits))
    facts = dict(found.circuits)[tag]
    return found, {key: part for key, part in facts.items() if not key.startswith("record_")}, Kept()


def planned(tag="P-11", **forms):
    found, facts, kept = unmeasured(tag)
    return plan_raw(found.rules, found.facts, {**facts, **forms}, beside=NOTHING, kept=kept)


def gate(tag, key, **forms):
    return planned(tag, **forms).gate(key)


@pytest.mark.parametrize(("a", "b", "c"), [(460, 467, 450), (400, 386, 397), (230, 228, 233), (460, 460, 460)])
def test_negative_sequence_is_that_of_the_phasors(a, b, c):
    """The triangle with those sides, its corners turned by 120° and averaged: Fortescue's own way."""
    corner = (a**2 + c**2 - b**2) / (2 * a)
    high = math.sqrt(max(c**2 - corner**2, 0.0))
    points = (0j, complex(a, 0), complex(corner, high))
    sides = (points[1] - points[0], points[2] - points[1], points[0] - points[2])
    turn = cmath.exp(2j * math.pi / 3)
    forward = abs(sides[0] + turn * sides[1] + turn**2 * sides[2])
    backward = abs(sides[0] + turn**2 * sides[1] + turn * sides[2])
    ratio = 100 * min(forward, backward) / max(forward, backward)
    assert negative_pct(a, b, c) == pytest.approx(ratio, abs=1e-5)


def test_unbalance_by_deviation_as_the_standard_works_it():
    """NEMA MG 1 14.36's own case: 460, 467, 450 are 459 and 9 apart, 1.96 %."""
    assert deviation_pct(460, 467, 450) == pytest.approx(1.96, abs=0.005)
    assert derating(deviation_pct(460, 467, 450)) == pytest.approx(0.952, abs=0.002)


@pytest.mark.parametrize(
    ("forms", "verdict"),
    [
        ({"record_install": {"note": "crane booked"}}, Verdict.UNKNOWN),
        ({"record_insulation": {"winding_at": "20 °C"}}, Verdict.UNKNOWN),
        ({"record_condition": {"vibration_h": "1 mm/s"}}, Verdict.UNKNOWN),
        ({"record_condition": {"vibration_h": "9 mm/s"}}, Verdict.FAILS),
        ({"record_insulation": {"r1": "900 MΩ", "winding_at": "20 °C"}}, Verdict.PASSES),
        ({"record_insulation": {"r1": "900 MΩ", "winding_at": "20 °C", "r10": "plenty"}}, Verdict.UNKNOWN),
    ],
)
def test_a_record_that_is_only_begun_or_not_read_passes_nothing(forms, verdict):
    plan = planned(**forms)
    found, sheet = plan.of(RECORD), plan.stage("record")
    assert record_verdict(found, sheet) is verdict
    assert record_of(plan)["verdict"] == verdict.value
    assert ("Cannot be read: " in record_of(plan)["said"]) is bool(plan.errors)


def test_line_to_neutral_readings_close_no_triangle():
    assert negative_pct(460, 100, 100) is None


@pytest.mark.parametrize(("celsius", "expected"), [(40, 1.0), (20, 0.762), (60, 2.25)])
def test_insulation_is_brought_to_40_degrees(celsius, expected):
    """By 1/T of both slopes, worked again from the Arrhenius form."""
    slope = 1245 if celsius <= 40 else 4230
    again = math.exp(slope * (1 / 313 - 1 / (celsius + 273)))
    assert factor_40(celsius, "thermosetting")[0] == pytest.approx(again)
    assert again == pytest.approx(expected, rel=0.01)
    assert factor_40(celsius, "thermoplastic")[0] == pytest.approx(2 ** ((celsius - 40) / 10))


def test_the_least_of_each_kind_of_winding():
    assert [least_ohm(kind, 460) / MEGOHM for kind in ("random", "dc", "old", "form")] == [
        5,
        5,
        pytest.approx(1.46),
        100,
    ]


@pytest.mark.parametrize(
    ("r1", "at", "verdict"),
    [
        ("4.9 MΩ", "40 °C", Verdict.FAILS),
        ("5 MΩ", "40 °C", Verdict.PASSES),
        ("6 MΩ", "20 °C", Verdict.FAILS),
        ("7 MΩ", "20 °C", Verdict.PASSES),
    ],
)
def test_insulation_passes_by_its_value_at_40_degrees(r1, at, verdict):
    found = gate("P-11", "record.insulation", record_insulation={"r1": r1, "winding_at": at})
    assert found.verdict is verdict
    assert found.weighs is (verdict is Verdict.FAILS)


def test_insulation_without_its_temperature_is_not_known():
    found = gate("P-11", "record.insulation", record_insulation={"r1": "600 MΩ"})
    assert found.verdict is Verdict.UNKNOWN
    assert found.needs == ("the winding's temperature",)


def running(**more):
    even = {"u12": "460", "u23": "460", "u31": "460", "i1": "85", "i2": "85", "i3": "85", "at_load": "full"}
    return {"record_running": {**even, **more}}


@pytest.mark.parametrize(
    ("key", "more", "verdict"),
    [
        ("record.current", {}, Verdict.PASSES),
        ("record.current", {"i1": "92"}, Verdict.PASSES),
        ("record.current", {"i1": "95"}, Verdict.CHECK),
        ("record.current", {"i1": "107"}, Verdict.FAILS),
        ("record.volts", {}, Verdict.PASSES),
        ("record.volts", dict.fromkeys(("u12", "u23", "u31"), "410"), Verdict.FAILS),
        ("record.unbalance_u", {"u12": "463"}, Verdict.PASSES),
        ("record.unbalance_u", {"u12": "470"}, Verdict.CHECK),
        ("record.unbalance_u", {"u12": "500"}, Verdict.FAILS),
        ("record.unbalance_i", {"i1": "2"}, Verdict.FAILS),
        ("record.unbalance_i", {"i1": "70"}, Verdict.CHECK),
        ("record.unbalance_i", {"i1": "70", "at_load": "none"}, Verdict.PASSES),
        ("record.unbalance_i", {"i1": "58", "at_load": "none"}, Verdict.CHECK),  # 24 % from their mean of 76
        ("record.unbalance_i", {"i1": "35"}, Verdict.CHECK),  # 49 % from their mean of 68.3
        ("record.unbalance_i", {"i1": "33"}, Verdict.FAILS),  # 51 %
        ("record.unbalance_i", {"i1": "33", "at_load": "part"}, Verdict.FAILS),
    ],
)
def test_running_on_both_sides_of_each_edge(key, more, verdict):
    assert gate("P-11", key, **running(**more)).verdict is verdict


@pytest.mark.parametrize(("key", "one"), [("record.volts", "u12"), ("record.current", "i1")])
def test_one_reading_of_three_asks_for_the_others_and_none_of_them_asks_nothing(key, one):
    assert gate("P-11", key, record_running={one: "70"}).verdict is Verdict.UNKNOWN
    assert not any(found.key == key for found in planned("P-11", record_running={"hertz": "60"}).gates)


def test_amperes_at_rest_are_not_what_was_planned_to_run():
    """Volts that cannot carry the load plan no running; those that just can plan more amperes than full ones."""
    fed = (running(u12=volts, u23=volts, u31=volts) for volts in ("400", "350", "100"))
    said = [gate("H-1", "record.current", **form).sentence for form in fed]
    planned_a = [float(text.split("; ")[1].split(" A planned")[0]) for text in said[:2]]
    assert planned_a[0] < planned_a[1] < 1.3 * planned_a[0]
    assert "planned" not in said[2]


def test_the_other_rule_set_judges_by_negative_sequence():
    """Under IEC 1 % may last; the same volts are a check under the other for their derating."""
    uneven = {"u12": "400", "u23": "393", "u31": "398"}
    assert gate("H-1", "record.unbalance_u", record_running=uneven).verdict is Verdict.CHECK
    assert gate("H-1", "record.unbalance_u", record_running={**uneven, "u23": "396"}).verdict is Verdict.PASSES


@pytest.mark.parametrize(
    ("speed", "zone"),
    [("1.4 mm/s", "A"), ("1.5 mm/s", "B"), ("2.8 mm/s", "B"), ("2.9 mm/s", "C"), ("4.5 mm/s", "C"), ("4.6 mm/s", "D")],
)
def test_vibration_by_zones(speed, zone):
    found = gate("H-1", "record.vibration", record_condition={"vibration_h": speed, "support": "rigid"})
    assert f"zone {zone}" in found.sentence
    assert found.verdict is {"A": Verdict.PASSES, "B": Verdict.PASSES, "C": Verdict.CHECK, "D": Verdict.FAILS}[zone]


def test_inches_a_second_peak_are_read_as_rms():
    """0.1 in/s peak is 1.8 mm/s rms: 25.4/√2 of it."""
    plan = planned("P-11", record_condition={"vibration_h": "0.1", "support": "rigid"})
    # 0.1 in/s peak are 25.4·0.1/√2 = 1.8 mm/s rms; zone B ends at 2.8, 2.8·√2/25.4 = 0.156
    assert plan.gate("record.vibration").sentence.startswith("0.1 in/s peak: zone B; B ends at 0.16 in/s peak")
    assert plan.found["record"].readings[-1].shown == "0.1 in/s peak"
    assert "zone B" in plan.gate("record.vibration").sentence
    asked = planned("P-11", record_condition={"vibration_h": "4.5", "support": "rigid"})
    assert ["4.5 has no unit" in error.message for error in asked.errors] == [True]  # no motor: mm/s will be meant
    metric = planned("H-1", record_condition={"vibration_h": "0.1 in/s", "support": "rigid"})
    assert metric.found["record"].readings[-1].shown == "1.8 mm/s rms"


def test_rotation_is_refused_until_it_was_bumped():
    assert gate("P-11", "record.rotation", **running()).verdict is Verdict.FAILS
    seen = {"record_rotation": {"wanted": "clockwise", "seen": "clockwise"}}
    assert gate("P-11", "record.rotation", **running(), **seen).verdict is Verdict.PASSES
    wrong = {"record_rotation": {"wanted": "clockwise", "seen": "counter"}}
    assert gate("P-11", "record.rotation", **wrong).verdict is Verdict.FAILS
    assert gate("P-11", "record.rotation", record_rotation={"sequence": "123"}).verdict is Verdict.UNKNOWN


def test_a_setting_that_protects_little_is_said():
    high = {"record_set": {"overload": "115 A"}}
    assert gate("P-11", "record.protects", **high, **running()).verdict is Verdict.CHECK
    assert gate("P-11", "record.set_overload", **high).verdict is Verdict.CHECK
    assert gate("P-11", "record.protects", record_set={"overload": "92 A"}, **running()).verdict is Verdict.PASSES


def test_what_is_simulated_informs_and_is_not_measured():
    wet = {"r1": "0.2 MΩ", "winding_at": "40 °C", "simulated": "yes"}
    plan = planned("P-11", record_insulation=wet)
    found = plan.gate("record.insulation")
    assert found.kind is Kind.INFORMS
    assert found.sentence.startswith("Simulated")
    assert all(figure.provenance.value != "measured" for figure in plan.stage("record").figures)
    assert plan.verdict is planned("P-11").verdict


def test_the_checklist_waits_and_what_is_wrong_fails():
    plan = planned("P-11", record_before={"locked_out": "done", "links": "wrong", "heater": "none"})
    assert plan.gate("record.locked_out").verdict is Verdict.PASSES
    assert plan.gate("record.links").fails
    assert plan.gate("record.coupling").kind is Kind.CONFIRM
    assert "record.heater" not in {one.key for one in plan.gates}


def test_a_reading_once_a_second_is_never_low():
    slow = {"plateau": "35 A", "rate": "slow"}
    found = gate("P-11", "record.start_current", record_start=slow)
    assert "At least 35 A" in found.sentence
    assert found.verdict is Verdict.CHECK


def test_a_circuit_without_a_record_has_no_gate_of_it():
    plan = planned("P-11")
    assert plan.found["record"] is None
    assert not plan.stage("record").gates


def test_the_demo_says_what_was_found():
    said = {}
    for name, tags in {"harrowmere-lock.json": ("P-11", "X-51"), "skerry-sound.json": ("H-1", "K-5")}.items():
        job = demo_job(name)
        for tag in tags:
            found = plan_raw(job.rules, job.facts, dict(job.circuits)[tag], beside=NOTHING).found["record"]
            said[tag] = "".join(piece.text for piece in found.said)
    assert said["P-11"].startswith("Ran 84.6 A at 470 V, 0.4 % unbalanced, plan 85.2 A. It took 4.9 s")
    assert "differs" in said["X-51"]
    assert "change-over 2.7 s: within the band" in said["H-1"]
    assert said["K-5"].startswith("Unbalance of volts")


@pytest.mark.parametrize(
    ("tag", "read", "key", "verdict"),
    [
        ("P-11", {"overload": "92 A"}, "overload_rule", Verdict.PASSES),
        (
            "P-11",
            {"overload": "94 A"},
            "overload_rule",
            Verdict.FAILS,
        ),  # trips above 125 %, and holds the start at that
        ("P-11", {"overload": "60 A"}, "overload_rule", Verdict.FAILS),  # trips at 75 A: opens at full load
        ("H-1", {"overload": "81 A"}, "overload_rule", Verdict.PASSES),
        ("H-1", {"overload": "100 A"}, "overload_rule", Verdict.FAILS),
        ("P-11", {"device": "175 A"}, "set_device", Verdict.PASSES),
        ("P-11", {"device": "150 A"}, "set_device", Verdict.CHECK),
        ("P-11", {"device": "150 A"}, "device_rule", Verdict.PASSES),
        ("P-11", {"device": "400 A"}, "device_rule", Verdict.FAILS),
        ("H-1", {"device": "100 A"}, "device_rule", Verdict.PASSES),
        ("H-1", {"device": "63 A"}, "device_rule", Verdict.FAILS),  # below the rated 81 A
        ("H-1", {"device": "400 A"}, "device_rule", Verdict.FAILS),  # an earth fault no longer opens it in time
    ],
)
def test_what_is_on_the_dials_is_judged_by_the_rules_the_plan_is_judged_by(tag, read, key, verdict):
    assert gate(tag, f"record.{key}", record_set=read).verdict is verdict


def test_a_device_whose_kind_is_not_said_is_judged_by_each_that_its_rating_may_be_of():
    """225 A on the fuse or breaker of P-11: as a breaker it may stand, as a time-delay fuse not."""
    found, facts, _ = unmeasured("P-11")
    unsaid = {**facts, "protection": {**facts["protection"], "device_nec": ""}, "record_set": {"device": "225 A"}}
    one = plan_raw(found.rules, found.facts, unsaid, beside=NOTHING).gate("record.device_rule")
    assert (one.verdict, one.turns.path) == (Verdict.CHECK, "protection.device_nec")
    assert gate("P-11", "record.device_rule", record_set={"device": "225 A"}).verdict is Verdict.FAILS


def test_what_is_on_the_dials_breaks_the_plan_s_verdict_only_where_it_breaks_a_rule():
    assert planned("P-11", record_set={"overload": "104 A"}).verdict is Verdict.FAILS
    assert planned("P-11", record_set={"device": "150 A"}).verdict is planned("P-11").verdict


def test_an_instantaneous_trip_is_held_against_the_first_peak_with_its_tolerance():
    first = planned("X-51").protected.first_a
    for times, verdict in ((1.26, Verdict.PASSES), (1.24, Verdict.FAILS)):  # 0.8 of it must exceed the peak
        found = gate("X-51", "record.set_instantaneous", record_set={"instantaneous": f"{first * times} A"})
        assert found.verdict is verdict


@pytest.mark.parametrize(
    ("volts", "ohms", "kind", "verdict"),
    [
        ("460 V", "6 MΩ", None, Verdict.PASSES),
        ("460 V", "4 MΩ", None, Verdict.FAILS),
        ("1000 V", "6 MΩ", None, Verdict.UNKNOWN),  # enough for a random winding, far too little for a form-wound one
        ("1000 V", "6 MΩ", "form", Verdict.FAILS),
        ("1000 V", "6 MΩ", "random", Verdict.PASSES),
        ("1000 V", "120 MΩ", None, Verdict.PASSES),
        ("1000 V", "1.9 MΩ", None, Verdict.FAILS),  # below the least of all: 1 kV + 1 is 2
    ],
)
def test_a_winding_of_unknown_kind_is_not_passed_by_the_mildest_row(volts, ohms, kind, verdict):
    found = demo_job("harrowmere-lock.json")
    facts = {key: part for key, part in dict(found.circuits)["P-11"].items() if not key.startswith("record_")}
    facts["plate"] = {**facts["plate"], "volts": volts}
    form = {"r1": ohms, "winding_at": "40 °C", **({"winding": kind} if kind else {})}
    job = {**found.facts, "supply": {**found.facts["supply"], "volts": "1000 V" if volts == "1000 V" else "480 V"}}
    plan = plan_raw(found.rules, job, {**facts, "record_insulation": form}, beside=NOTHING)
    assert plan.gate("record.insulation").verdict is verdict


@pytest.mark.parametrize(
    ("form", "key"),
    [
        ({"record_condition": {"hot": "0.15 Ω"}}, "record.winding_c"),
        ({"record_condition": {"cold": "0.118 Ω", "cold_at": "22 °C"}}, "record.winding_c"),
        ({"record_insulation": {"r10": "2 GΩ"}}, "record.insulation"),
        ({"record_insulation": {"test": "500 V"}}, "record.insulation"),
        ({"record_start": {"least": "440 V"}}, "record.start_dip"),
    ],
)
def test_half_of_a_measurement_says_what_it_lacks(form, key):
    found = gate("P-11", key, **form)
    assert found.verdict is Verdict.UNKNOWN
    assert found.needs


@pytest.mark.parametrize(
    ("tag", "hot", "verdict"),
    [
        ("P-11", "0.1744 Ω", Verdict.PASSES), ("P-11", "0.1748 Ω", Verdict.CHECK), ("P-11", "0.1790 Ω", Verdict.CHECK),
        ("P-11", "0.1794 Ω", Verdict.FAILS), ("H-1", "0.1744 Ω", Verdict.PASSES), ("H-1", "0.1748 Ω", Verdict.FAILS),
    ],
)  # fmt: skip
def test_a_warm_winding_is_held_against_its_class(tag, hot, verdict):
    """By resistance class F ends at 40 + 105 °C, its hottest spot at 155: from 0.118 Ω at 22 °C 145 °C are
    0.118·379.5/256.5 = 0.17458 Ω; in a service factor of 1.15 it may reach 155 °C, 0.17918 Ω.
    """
    form = {"hot": hot, "cold": "0.118 Ω", "cold_at": "22 °C"}
    assert gate(tag, "record.winding_c", record_condition=form).verdict is verdict


@pytest.mark.parametrize(("air", "verdict"), [("36 °C", Verdict.PASSES), ("34 °C", Verdict.CHECK)])
def test_a_winding_in_cool_air_is_judged_by_its_rise(air, verdict):
    """140 °C: 0.118·374.5/256.5 Ω; above 34 °C it has risen 106 K, and would be too warm on a hot day."""
    form = {"hot": "0.17228 Ω", "cold": "0.118 Ω", "cold_at": "22 °C", "ambient": air}
    assert gate("P-11", "record.winding_c", record_condition=form).verdict is verdict


@pytest.mark.parametrize(
    ("letter", "at", "ohms", "system", "verdict"),
    [
        ("F", "20 °C", "7 MΩ", None, Verdict.PASSES),  # of resin by its class: 5.3 MΩ
        (None, "20 °C", "7 MΩ", None, Verdict.UNKNOWN),  # thermoplastic it would be 1.75
        (None, "20 °C", "7 MΩ", "thermosetting", Verdict.PASSES),
        (None, "20 °C", "19 MΩ", "thermoplastic", Verdict.FAILS),
        (None, "20 °C", "21 MΩ", None, Verdict.PASSES),  # enough of either
        (None, "20 °C", "6 MΩ", None, Verdict.FAILS),  # too little of either
        ("F", "0 °C", "70 MΩ", None, Verdict.UNKNOWN),  # no correction is given there
        ("F", "0 °C", "90 MΩ", None, Verdict.PASSES),  # a sixteenth of it is enough
    ],
)
def test_insulation_is_not_passed_by_a_correction_that_is_assumed(letter, at, ohms, system, verdict):
    plan = planner("harrowmere-lock.json", "P-11")
    form = {"record_insulation.r1": ohms, "record_insulation.winding_at": at, "record_insulation.system": system}
    assert plan({"plate.insulation_class": letter, **form}).gate("record.insulation").verdict is verdict


def test_windings_ohms_are_brought_to_25_degrees_by_coppers_own():
    """71.2333 mΩ in the mean, at 24 °C: 259.5/258.5 of that; nothing is said without its warmth."""
    three = {"r12": "0.0712 Ω", "r23": "0.0714 Ω", "r31": "0.0711 Ω"}
    assert planned("P-11", record_insulation=three).figure("record.winding_ohms") is None
    cool, hot = (planned("P-11", record_insulation=three | {"winding_at": at, "r1": "600 MΩ"}).figure("record.winding_ohms")
                 for at in ("24 °C", "75 °C"))  # fmt: skip
    assert cool.value == pytest.approx(0.0712333 * 259.5 / 258.5, rel=1e-5)
    assert hot.value == pytest.approx(0.0712333 * 259.5 / 309.5, rel=1e-5)


@pytest.mark.parametrize("ohms", [0.07, 7.0])
@pytest.mark.parametrize(
    ("apart", "verdict"),
    [(1.9, "passes"), (2.0, "passes"), (2.1, "check"), (4.9, "check"), (5.0, "check"), (5.1, "fails"), (-5.1, "fails")],
)
def test_three_windings_agree_by_their_mean_whatever_their_ohms(ohms, apart, verdict):
    """Where two are 1, the third is (2 + 2·d)/(2 − d) to lie d of the mean from it."""
    share = apart / 100
    form = dict.fromkeys(("r12", "r23"), f"{ohms} Ω") | {"r31": f"{ohms * (2 + 2 * share) / (2 - share)} Ω"}
    assert gate("P-11", "record.winding", record_insulation=form).verdict == verdict


@pytest.mark.parametrize(
    ("volts", "verdict"), [("500 V", "passes"), ("530 V", "passes"), ("250 V", "check"), ("1000 V", "check")]
)
def test_insulation_is_tested_with_the_volts_for_its_winding(volts, verdict):
    form = {"r1": "600 MΩ", "winding_at": "22 °C", "test": volts}
    assert gate("P-11", "record.test_volts", record_insulation=form).verdict == verdict


@pytest.mark.parametrize("dial", ["overload", "device", "instantaneous"])
@pytest.mark.parametrize(("text", "refused"), [("0 A", True), ("0.01 A", False)])
def test_no_dial_stands_at_nought(dial, text, refused):
    """A reading may be nought; what is set may not: the plan is judged by it again."""
    _, errors = read_circuit({"record_set": {dial: text}}, "nec")
    assert [one.path for one in errors] == [f"record_set.{dial}"] * refused
    judged = {gate.key for gate in planned("P-11", record_set={dial: text}).gates}
    assert (f"record.set_{dial}" in judged) is not refused


@pytest.mark.parametrize(("file", "tag"), [("harrowmere-lock.json", "P-11"), ("skerry-sound.json", "H-1")])
def test_a_dial_is_not_approved_where_the_plan_cannot_judge_it(file, tag):
    plan, read = planner(file, tag), {"record_set.overload": "20000 A"}
    assert plan(read).gate("record.overload_rule").verdict is Verdict.FAILS
    found = {one.key: one for one in plan({**read, "plate.full_load_current": None}).gates}
    assert "record.overload_rule" not in found
    assert found["record.set_overload"].verdict is Verdict.UNKNOWN
