"""Where a reading stops agreeing with the plan: both sides of each edge, worked from the plan's own figures."""

import pytest

from tests.conftest import planner
from tests.core.test_record import gate, planned
from vinegate.core.grade import Verdict
from vinegate.core.record.dead import installed
from vinegate.core.record.facts import Installed

PASSES, CHECK, FAILS, UNKNOWN = Verdict.PASSES, Verdict.CHECK, Verdict.FAILS, Verdict.UNKNOWN


def row(tag):
    found = planned(tag).comparison
    return found.row(found.chosen)


@pytest.mark.parametrize(("off", "verdict"), [(-0.05, PASSES), (0.05, CHECK)])
def test_a_dip_may_be_a_third_deeper_and_half_a_per_cent(off, verdict):
    edge = 1.3 * row("P-11").dip_pct + 0.5
    least = 480 * (1 - (edge + off) / 100)
    form = {"before": "480 V", "least": f"{least:.3f} V"}
    assert gate("P-11", "record.start_dip", record_start=form).verdict is verdict


@pytest.mark.parametrize(
    ("peak", "verdict"),
    [(0.96, CHECK), (0.98, PASSES), (1.02, PASSES), (1.045, CHECK)],  # of √2 × 313 A: held, and no more at first
)
def test_a_first_peak_lies_between_the_crest_of_what_is_held_and_the_planned_one(peak, verdict):
    """It had no gate: an ampere, or a hundred thousand, changed nothing."""
    held = row("P-11").peak_a
    form = {"plateau": f"{held:.3f} A", "peak": f"{peak * 2**0.5 * held:.3f} A", "rate": "waveform"}
    assert gate("P-11", "record.start_peak", record_start=form).verdict is verdict


@pytest.mark.parametrize(("least", "verdict"), [("478 V", PASSES), ("484 V", PASSES), ("495 V", FAILS)])
def test_the_least_volts_are_not_above_those_before(least, verdict):
    """Two readings exchanged came out as no dip, and passed."""
    assert gate("P-11", "record.start_dip", record_start={"before": "480 V", "least": least}).verdict is verdict


@pytest.mark.parametrize(("dip", "verdict"), [("2.95", PASSES), ("3.05", CHECK)])
def test_a_dip_beyond_what_is_asked_is_not_passed_by_a_plan_within_it(dip, verdict):
    """A third more than is planned, and half a per cent, would be more than the 3 % asked."""
    form = {"record_start.before": "480 V", "record_start.least": f"{480 * (1 - float(dip) / 100):.3f} V"}
    found = planner("harrowmere-lock.json", "P-11")({"limits.dip": "3 %", **form})
    planned_pct = found.comparison.row(found.comparison.chosen).dip_pct
    assert planned_pct < 3 < 1.3 * planned_pct + 0.5
    assert found.gate("record.start_dip").verdict is verdict


@pytest.mark.parametrize(("share", "verdict"), [(1.29, PASSES), (1.31, CHECK), (0.71, PASSES), (0.69, CHECK)])
def test_a_time_is_known_to_three_tenths(share, verdict):
    form = {"time": f"{share * row('P-11').time_s:.4f} s"}
    assert gate("P-11", "record.start_time", record_start=form).verdict is verdict


@pytest.mark.parametrize(
    ("off", "verdict", "word"), [(0.19, PASSES, ""), (0.21, CHECK, "late"), (-0.21, CHECK, "early")]
)
def test_a_change_over_may_be_off_by_a_fifth_of_a_second(off, verdict, word):
    found = gate("H-1", "record.start_change", record_start={"changeover": f"{row('H-1').changes_at_s + off:.4f} s"})
    assert found.verdict is verdict
    assert word in found.sentence


@pytest.mark.parametrize(
    ("end", "verdict"), [("90 °C", PASSES), ("91 °C", CHECK), ("100 °C", CHECK), ("101 °C", FAILS)]
)
def test_bearings_alarm_at_ninety_and_stop_at_a_hundred(end, verdict):
    assert gate("P-11", "record.bearings", record_condition={"drive_end": end, "other_end": "60 °C"}).verdict is verdict


@pytest.mark.parametrize(("rate", "read"), [("waveform", 0.03), ("fast", 0.05), ("eye", 0.25)])
def test_amperes_while_starting_are_within_the_plates_band_and_the_instruments(rate, read):
    """Root of the squares of both; below it the letter's lower end alone, for P-11's is 5.6 to 6.3 kVA a horsepower."""
    locked = (
        planned("P-11").figure("start.locked_rotor_low").value / planned("P-11").figure("start.locked_rotor_high").value
    )
    amps = row("P-11").peak_a
    least, most = amps * (1 - ((1 - locked) ** 2 + read**2) ** 0.5), amps * (1 + read)
    for value, verdict in ((least + 1, PASSES), (least - 1, CHECK), (most - 1, PASSES), (most + 1, CHECK)):
        found = gate("P-11", "record.start_current", record_start={"plateau": f"{value:.3f} A", "rate": rate})
        assert found.verdict is verdict, (rate, value)


def test_a_meter_of_a_reading_a_second_proves_nothing():
    amps = row("P-11").peak_a
    form = {"plateau": f"{amps:.2f} A", "rate": "slow"}
    assert gate("P-11", "record.start_current", record_start=form).verdict is CHECK


@pytest.mark.parametrize(("amps", "verdict"), [("92.4", PASSES), ("93", CHECK), ("105.8", CHECK), ("106", FAILS)])
def test_amperes_beyond_the_plate_are_in_its_service_factor_and_then_beyond_it(amps, verdict):
    """92 A with a factor of 1.15: to 105.8 A."""
    form = {"i1": f"{amps} A", "i2": f"{amps} A", "i3": f"{amps} A"}
    assert gate("P-11", "record.current", record_running=form).verdict is verdict


def test_the_other_rule_set_knows_no_service_factor():
    rated = planned("H-1").figure("plate.current").value
    form = dict.fromkeys(("i1", "i2", "i3"), f"{1.02 * rated:.2f} A")
    assert gate("H-1", "record.current", record_running=form).verdict is FAILS


def planned_a(volts, **load):
    """What the sentence calls planned for the pump that starts without its load."""
    form = dict.fromkeys(("u12", "u23", "u31"), f"{volts} V") | dict.fromkeys(("i1", "i2", "i3"), "70 A")
    found = planner("skerry-sound.json", "H-1")(
        {f"record_running.{name}": text for name, text in form.items()} | {f"load.{k}": v for k, v in load.items()}
    )
    return float(found.gate("record.current").sentence.split("; ")[1].split(" A")[0])


def test_what_it_is_planned_to_draw_at_work_is_with_all_of_its_load():
    """45 kW at 81 A, started unloaded and then at 38 kW: P/(√3·U·η·cos φ); at fewer volts it draws more."""
    assert planned_a(400, power="45 kW") == pytest.approx(81, rel=0.03)
    eta, cosine = 0.942, 0.85
    assert planned_a(400) == pytest.approx(38000 / (3**0.5 * 400 * eta * cosine), rel=0.05)
    assert planned_a(370) > planned_a(400)


@pytest.mark.parametrize(("low", "verdict"), [("92", PASSES), ("60", CHECK), ("4", FAILS)])
def test_amperes_apart(low, verdict):
    """92, 92, 92: even; 92, 92, 60: 26 % apart; one that carries nothing."""
    form = {"i1": "92 A", "i2": "92 A", "i3": f"{low} A", "at_load": "full"}
    assert gate("P-11", "record.unbalance_i", record_running=form).verdict is verdict


@pytest.mark.parametrize(("at", "outside"), [("85 °C", False), ("92 °C", True), ("10 °C", False), ("5 °C", True)])
def test_insulation_of_a_hot_winding_is_read_and_its_correction_doubted(at, outside):
    """IEEE 43 gives the correction from 10 to 85 °C; a motor that has just run is warmer than that."""
    found = gate("P-11", "record.insulation", record_insulation={"r1": "2 GΩ", "winding_at": at, "winding": "random"})
    assert ("outside 10 to 85 °C" in found.sentence) is outside


def told(**form):
    return "".join(piece.text for piece in planned("P-11", record_condition=form).found["record"].said)


def test_a_bearing_past_its_alarm_is_told_at_once():
    """Whoever keeps a reading of 96 °C reads it in the first words, as of one at which to stop; 88 °C is not told."""
    assert told(drive_end="96 °C").startswith("Bearings: 96 °C; 90 °C is the usual alarm")
    assert told(drive_end="101 °C").startswith("Bearings: 101 °C")
    assert "Bearings" not in told(drive_end="88 °C")
    shaken = told(drive_end="70 °C", vibration_h="0.2", support="rigid")
    assert shaken.startswith("Vibration: ")
    assert "zone C" in shaken or "zone D" in shaken


def test_an_alarm_is_told_behind_another_failure_too():
    """That it ran unbumped fails first; a bearing at 101 °C, or at 96, is not hidden by that."""
    for end in ("101 °C", "96 °C"):
        uneven = {"u12": "460 V", "u23": "410 V", "u31": "440 V"}
        plan = planned("P-11", record_running=uneven, record_condition={"drive_end": end})
        said = "".join(piece.text for piece in plan.found["record"].said)
        assert said.startswith("Rotation: It has run, and no bump of it uncoupled is recorded.")
        assert said.count("Bearings: ") == 1


def test_each_step_of_installing_that_was_ticked_is_a_gate_in_its_words():
    form = Installed(steps="done: Lock out.\nwrong: Align it.\nnone: No coupling.\ndone: Earth it.")
    found = {gate.key: gate for gate in installed(form)}
    assert {key: (gate.verdict.value, gate.kind.value) for key, gate in found.items()} == {
        "record.step_1": ("passes", "to confirm"),
        "record.step_2": ("fails", "engineering"),
        "record.step_4": ("passes", "to confirm"),
    }
    assert found["record.step_2"].sentence == "Not right: Align it."
    assert list(installed(Installed())) == []
