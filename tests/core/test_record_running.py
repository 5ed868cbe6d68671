"""What is read while it runs: frequency, speed, power and power factor, and what they mean together."""

import pytest

from tests.conftest import planner
from tests.core.test_record import gate, planned, running
from vinegate.core.grade import Verdict
from vinegate.core.plan import plan_raw
from vinegate.core.record.stage import RECORD

PASSES, CHECK, FAILS, UNKNOWN = Verdict.PASSES, Verdict.CHECK, Verdict.FAILS, Verdict.UNKNOWN
READ = ("u12", "u23", "u31", "i1", "i2", "i3")
DRIVEN = {"start.method": "drive"}
HYDRAULIC = dict(zip(READ, ("398", "399", "398", "72", "72", "72"), strict=True), at_load="full", hertz="50 Hz")


def on(rules, **facts):
    """A circuit on 400 V and 50 Hz, by either rule set."""
    return plan_raw(rules, {"supply": {"volts": "400 V", "frequency": "50 Hz"}}, facts)


def read(**more):
    even = dict(zip(READ, ("400", "400", "400", "20", "20", "20"), strict=True))
    return {"record_running": {**even, **more}}


PLATE = {"power": "10 kW", "volts": "400", "full_load_current": "20 A", "frequency": "50 Hz", "speed": "1440", "efficiency": "92 %"}  # fmt: skip


@pytest.mark.parametrize(
    ("rules", "hertz", "volts", "verdict"),
    [
        ("iec", "51", "400", PASSES),  # IEC 60034-1 7.3: 2 % for ever, -5 to +3 % for a while
        ("iec", "51.1", "400", CHECK),
        ("iec", "51.6", "400", FAILS),
        ("iec", "48.9", "400", CHECK),
        ("iec", "47.4", "400", FAILS),
        ("nec", "52.4", "400", PASSES),  # MG 1 12.44: 5 %, and 10 % with the volts
        ("nec", "52.6", "400", FAILS),
        ("nec", "52.4", "419", PASSES),
        ("nec", "52.4", "422", CHECK),
    ],
)
def test_frequency_by_each_sets_zones(rules, hertz, volts, verdict):
    form = read(hertz=hertz, **dict.fromkeys(READ[:3], volts))
    assert on(rules, plate=PLATE, **form).gate("record.hertz").verdict is verdict


@pytest.mark.parametrize(
    ("hertz", "says"), [("51.1", "51.1 Hz is 2.2 % above the 50 Hz planned."), ("50", "50 Hz, as")]
)
def test_a_frequency_is_told_beside_the_planned_one(hertz, says):
    assert on("iec", plate=PLATE, **read(hertz=hertz)).gate("record.hertz").sentence.startswith(says)


@pytest.mark.parametrize(
    ("more", "verdict", "says"),
    [
        # slip of 60 at rated load, a fifth of it its tolerance, 1.5 r/min the tachometer's
        ({"speed": "1427", "hertz": "50"}, PASSES, "122 %"),
        ({"speed": "1426", "hertz": "50"}, CHECK, "123 %"),
        ({"speed": "1424"}, PASSES, "127 %"),  # hertz not read: three times the doubt
        ({"speed": "1422"}, CHECK, "130 %"),
        ({"speed": "1500", "hertz": "50"}, PASSES, " 0 %"),
        ({"speed": "1501", "hertz": "50"}, PASSES, " 0 %"),
        ({"speed": "1502", "hertz": "50"}, CHECK, "above the 1500"),
        ({"speed": "1504"}, PASSES, " 0 %"),
        ({"speed": "720", "hertz": "50"}, CHECK, "a half or a third"),
        ({"speed": "1480", "hertz": "50", "at_load": "none"}, PASSES, "33 %"),
        ({"speed": "1460", "hertz": "50", "at_load": "none"}, CHECK, "much for nothing coupled"),
        # at 90 % of its volts the same torque takes 1/0.81 of the slip
        ({"speed": "1426", "hertz": "50", "u12": "360", "u23": "360", "u31": "360"}, PASSES, "about 100 %"),
        # a field of 1470 turns at 49 Hz
        ({"speed": "1472", "hertz": "49"}, CHECK, "above the 1470"),
    ],
)
def test_speed_by_its_slip(more, verdict, says):
    found = on("iec", plate=PLATE, **read(**more)).gate("record.speed")
    assert (found.verdict, says in found.sentence) == (verdict, True)


def test_a_small_machine_may_slip_three_tenths_more():
    small = {**PLATE, "power": "0.75 kW", "full_load_current": "2 A"}
    form = read(speed="1421", hertz="50", i1="2", i2="2", i3="2")
    assert on("iec", plate=small, **form).gate("record.speed").verdict is PASSES
    assert on("iec", plate=PLATE, **read(speed="1421", hertz="50")).gate("record.speed").verdict is CHECK


@pytest.mark.parametrize("speed", ["1490", "1500"])
def test_a_plate_at_synchronous_speed_tells_nothing_of_slip(speed):
    assert on("iec", plate={**PLATE, "speed": "1500"}, **read(speed=speed)).gate("record.speed").verdict is UNKNOWN


def test_speed_needs_a_plate_with_poles():
    assert on("iec", plate={**PLATE, "speed": ""}, **read(speed="1400")).gate("record.speed").verdict is UNKNOWN
    universal = on("iec", plate={**PLATE, "kind": "universal"}, **read(speed="9000"))
    assert not any(found.key == "record.speed" for found in universal.gates)


@pytest.mark.parametrize(
    ("rules", "more", "verdict"),
    [
        ("iec", {"power": "10.9 kW"}, PASSES),  # 10 kW at 92 % take 10.87
        ("iec", {"power": "11 kW"}, FAILS),
        ("nec", {"power": "11 kW"}, CHECK),  # in its service factor of 1.15
        ("nec", {"power": "12.6 kW"}, FAILS),
        ("iec", {"factor": "0.78"}, PASSES),  # √3·400·20 = 13.86 kVA, so 10.8 kW
        ("iec", {"factor": "0.8"}, FAILS),
        ("iec", {"power": "2.4 kW", "at_load": "none"}, PASSES),
        ("iec", {"power": "2.6 kW", "at_load": "none"}, CHECK),
    ],
)
def test_power_against_what_its_rated_output_takes(rules, more, verdict):
    plate = {**PLATE, "service_factor": "1.15"}
    assert on(rules, plate=plate, **read(**more)).gate("record.power").verdict is verdict


def test_power_without_an_efficiency_passes_only_below_the_output_itself():
    plate = {**PLATE, "efficiency": ""}
    assert on("iec", plate=plate, **read(power="9.9 kW")).gate("record.power").verdict is PASSES
    asked = on("iec", plate=plate, **read(power="10.5 kW")).gate("record.power")
    assert (asked.verdict, asked.needs) == (UNKNOWN, ("the plate's efficiency",))


def test_one_phase_takes_its_power_between_two_wires():
    plate = {**PLATE, "kind": "capacitor-start", "power": "1 kW", "volts": "230", "full_load_current": "8 A", "efficiency": "70 %"}  # fmt: skip
    form = {"record_running": {"u12": "230", "i1": "8", "factor": "0.77"}}  # 1840 VA, 1417 W of 1429
    found = on("iec", plate=plate, **form)
    assert found.gate("record.power").verdict is PASSES
    assert found.figure("record.power").value == pytest.approx(0.23 * 8 * 0.77)


@pytest.mark.parametrize(
    ("volts", "amps", "verdicts"),
    [("250", "80", (PASSES, PASSES)), ("524", "90", (PASSES, FAILS)), ("560", "82", (FAILS, PASSES))],
)
def test_direct_current_is_read_between_two_leads_and_its_volts_go_with_its_speed(volts, amps, verdicts):
    """It asked for three of each; and half of its speed is half of its volts."""
    plate = {"kind": "dc-shunt", "power": "37 kW", "volts": "500", "full_load_current": "82", "speed": "1750"}
    found = on("iec", plate=plate, record_running={"u12": volts, "i1": amps})
    assert tuple(found.gate(f"record.{key}").verdict for key in ("volts", "current")) == verdicts


@pytest.mark.parametrize(
    ("more", "verdict", "says"),
    [
        ({"power": "14.1 kW"}, PASSES, "1 by power"),  # of 13.86 kVA, read to 2 %
        ({"power": "14.2 kW"}, FAILS, "more than the 13.86 kVA"),
        ({"power": "11 kW", "factor": "0.75"}, PASSES, "0.79 by power"),
        ({"power": "11 kW", "factor": "0.74"}, CHECK, "do not agree"),
    ],
)
def test_power_volts_and_amperes_agree(more, verdict, says):
    found = on("iec", plate=PLATE, **read(**more)).gate("record.factor")
    assert (found.verdict, says in found.sentence) == (verdict, True)


def test_unequal_amperes_have_no_mean_to_make_a_factor_of():
    keys = {one.key for one in on("iec", plate=PLATE, **read(power="11 kW", i1="2")).gates}
    assert "record.factor" not in keys
    assert "record.power" in keys


@pytest.mark.parametrize(
    ("volts", "hertz", "verdict"),
    [
        ("460", "60", PASSES),
        ("230", "30", PASSES),  # it failed at a half of its volts
        ("255", "30", CHECK),
        ("205", "30", CHECK),
        ("230", "", UNKNOWN),
        ("478", "80", PASSES),  # past its base: what the line has
        ("420", "80", CHECK),
        ("440", "30", CHECK),  # its rated volts, at twice the rated flux
        ("440", "", PASSES),
    ],
)
def test_behind_a_drive_volts_go_by_hertz(volts, hertz, verdict):
    form = {"record_running.hertz": hertz, **{f"record_running.{one}": volts for one in READ[:3]}}
    found = planner("harrowmere-lock.json", "P-11")({**DRIVEN, **form})
    assert found.gate("record.volts").verdict is verdict
    assert not any(one.key == "record.hertz" for one in found.gates)


@pytest.mark.parametrize(
    ("power", "verdict"), [("59 kW", PASSES), ("62 kW", CHECK), ("66 kW", CHECK), ("74 kW", FAILS)]
)
def test_behind_a_drive_its_losses_are_in_the_lines_power(power, verdict):
    """75 hp at 94.1 % take 59.45 kW; a drive loses a twentieth at most; the service factor is 1.15."""
    form = {f"record_running.{key}": value for key, value in running(power=power)["record_running"].items()}
    assert planner("harrowmere-lock.json", "P-11")({**DRIVEN, **form}).gate("record.power").verdict is verdict


@pytest.mark.parametrize(("power", "verdict"), [("10.9 kW", PASSES), ("11.4 kW", CHECK), ("11.6 kW", FAILS)])
def test_behind_a_drive_without_a_service_factor_its_losses_alone_are_let_through(power, verdict):
    """10 kW at 92 % take 10.87 kW; a twentieth lost ahead of them makes 11.44."""
    found = on("iec", plate=PLATE, start={"method": "drive"}, **read(power=power, hertz="50"))
    assert found.gate("record.power").verdict is verdict


@pytest.mark.parametrize(("power", "verdict"), [("32 kW", PASSES), ("35 kW", FAILS)])
def test_one_drives_line_is_read_for_all_of_its_motors(power, verdict):
    """Three of 10 kW at 92 % take 32.6 kW."""
    found = on("iec", plate=PLATE, start={"method": "drive"}, drive={"motors": "3"}, **read(power=power, hertz="50"))
    assert found.gate("record.power").verdict is verdict
    assert "3 × 10 kW" in found.gate("record.power").sentence


@pytest.mark.parametrize(
    ("dial", "amps", "verdict"),
    [("92", "73.7", PASSES), ("92", "73.5", CHECK), ("92", "96.5", PASSES), ("92", "96.7", CHECK)],
)
def test_an_overload_carries_a_twentieth_more_and_protects_to_a_quarter(dial, amps, verdict):
    form = running(i1=amps, i2=amps, i3=amps)
    assert gate("P-11", "record.protects", record_set={"overload": dial}, **form).verdict is verdict


@pytest.mark.parametrize(("dial", "verdict"), [("46.8", PASSES), ("81", CHECK)])
def test_in_the_delta_a_dial_stands_for_root_three_times_its_amperes(dial, verdict):
    place = {"protection.overload_place": "delta", "record_set.overload": dial}
    form = {f"record_running.{key}": value for key, value in HYDRAULIC.items()}
    assert planner("skerry-sound.json", "H-1")({**place, **form}).gate("record.protects").verdict is verdict


def likely(tag, **forms):
    return [one.key for one in planned(tag, **forms).of(RECORD).likely]


@pytest.mark.parametrize(
    ("start", "more", "first"),
    [
        ({}, {}, None),
        ({}, {"i2": "0"}, "single_phase"),
        ({}, dict.fromkeys(READ[3:], "100") | {"factor": "0.84"}, "overload"),
        ({}, dict.fromkeys(READ[3:], "100") | {"factor": "0.64"}, "winding"),
        ({}, {"u12": "380", "u31": "402", "i1": "50", "i3": "90"}, "unbalance"),
        ({"plateau": "540 A", "time": "0.7 s"}, {}, "in_delta"),
        ({"plateau": "93 A", "time": "1.3 s"}, dict.fromkeys(READ[3:], "36"), "instrument"),
        ({"before": "375 V", "least": "368 V"}, {}, "low_volts"),
        ({"changeover": "4 s", "time": "4.1 s", "plateau": "187 A"}, {}, "timer"),
        ({"changeover": "1.3 s", "time": "1.4 s", "plateau": "187 A"}, {}, None),
        ({"before": "400 V", "least": "375 V"}, {}, "weak_source"),
        ({"plateau": "540 A", "rate": "slow"}, {}, None),
    ],
)
def test_what_the_forms_most_likely_mean(start, more, first):
    """Each by what a designer would say of those readings; nothing where all is as planned."""
    forms = {"record_running": {**HYDRAULIC, **more}}
    if start:
        forms["record_start"] = {"before": "400 V", "least": "392 V", "rate": "waveform", **start}
    found = likely("H-1", **forms)
    assert (found[:1] or [None])[0] == first


@pytest.mark.parametrize(("method", "named"), [("soft-starter", True), ("drive", False)])
def test_a_soft_starters_limit_is_no_cause_where_a_drive_feeds_it(method, named):
    form = {"before": "472 V", "least": "461 V", "plateau": "420 A", "time": "2.5 s", "rate": "fast"}
    facts = {"start.method": method, **{f"record_start.{key}": value for key, value in form.items()}}
    found = planner("harrowmere-lock.json", "P-11")(facts).of(RECORD).likely
    assert ("limit_high" in [one.key for one in found]) is named


def test_the_answer_says_what_was_planned_at_those_volts():
    said = "".join(piece.text for piece in planned("H-1", record_running=HYDRAULIC).of(RECORD).said)
    assert "Ran 72 A at 398 V, 0.2 % unbalanced, plan 7" in said
