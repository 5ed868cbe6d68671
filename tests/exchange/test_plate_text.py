"""Pasted plates: of either trade, labels ahead or units behind, glued or not; each again in any order of its parts."""

import re

import pytest
from hypothesis import given
from hypothesis import strategies as st

from vinegate.core.facts import RuleSetName, read_circuit
from vinegate.exchange.plate_text import read_plate

NEMA = """HP 75  VOLTS 230/460  AMPS 184/92
RPM 1185  HZ 60  PH 3
SF 1.15  CODE G  DES B
FRAME 405T  INS CL F  ENCL TEFC
DUTY CONT  AMB 40C  NEMA NOM EFF 94.1  PF 81"""
IEC = """3~ Mot. 45 kW  400/690 V Δ/Y  81/47 A  1480 r/min  50 Hz cos φ 0,85
IP55  IE3 94,2 %  Th.Cl. F  IM B3 225M  S1 IC 411"""
GLUED = "75HP 460V 92A 1185RPM 60HZ TEFC 405T SF1.15 CODE G NEMA DESIGN B INSUL F MAX AMB 40C"
SINGLE = (
    "1 HP 115/208-230 V 13.6/7.4-6.8 A 1725 RPM FR 56HZ CODE K INS B THERMAL PROT AUTO CONT CCW ODE 430-516 MFD 125 VAC"
)


def test_a_plate_of_labels():
    found = read_plate(NEMA)
    assert found.texts == {
        "power": "75 hp", "volts": "230/460", "full_load_current": "184/92", "speed": "1185 rpm", "frequency": "60 Hz",
        "service_factor": "1.15", "code_letter": "G", "design_letter": "B", "frame": "405T", "insulation_class": "F",
        "enclosure": "TEFC", "duty": "CONT", "ambient": "40C", "efficiency": "94.1", "power_factor": "81",
    }  # fmt: skip
    assert found.left == []


def test_a_plate_of_units_and_codes():
    found = read_plate(IEC)
    assert found.texts == {
        "power": "45 kW", "volts": "400/690 V Δ/Y", "full_load_current": "81/47", "speed": "1480 rpm",
        "frequency": "50 Hz", "power_factor": "0,85", "protection": "IP55", "efficiency_class": "IE3",
        "efficiency": "94,2%", "insulation_class": "F", "mounting": "IM B3", "frame": "225M", "duty": "S1",
        "cooling": "IC 411",
    }  # fmt: skip
    assert found.left == []


def test_a_plate_without_blanks():
    texts = read_plate(GLUED).texts
    assert (texts["power"], texts["volts"], texts["full_load_current"]) == ("75 hp", "460", "92")
    assert (texts["service_factor"], texts["design_letter"], texts["insulation_class"]) == ("1.15", "B", "F")
    assert read_plate(GLUED).left == []


def test_a_single_phase_plate():
    found = read_plate(SINGLE)
    assert found.left == []
    assert found.texts["frame"] == "56HZ"  # no hertz
    assert found.texts["thermal_protection"] == "AUTO"
    assert found.texts["rotation"] == "CCW ODE"
    assert found.texts["start_capacitor"] == "430-516 MFD 125 VAC"


@pytest.mark.parametrize("text", ["75 kW 400 V 138 A Rotor 320 V 105 A", "ROTOR VOLTS 320 ROTOR AMPS 105 V 400 A 138"])
def test_volts_and_amperes_of_a_rotor_are_its_own(text):
    texts = read_plate(text).texts
    assert (texts["rotor_volts"], texts["rotor_current"]) == ("320", "105")
    assert (texts["volts"], texts["full_load_current"]) == ("400", "138")


@pytest.mark.parametrize(
    ("text", "name", "value"),
    [
        ("II 2G Ex db IIB T4 Gb 4 kW", "ex_marking", "II 2G Ex db IIB T4 Gb"),
        ("Ex eb IIC T3 Gb 5.5 kW", "power", "5.5 kW"),
        ("Class I Div 1 Group D T3C 15 HP", "listing", "Class I Div 1 Group D T3C"),
        ("400 VΔ 53 A", "volts", "400 V Δ"),
        ("5 1/2 HP", "power", "5 1/2 hp"),
        ("3 PHASE 60 CYCLE 15 HP", "frequency", "60 Hz"),
        ("SF 1.15 460 V", "service_factor", "1.15"),
        ("n 970 cos 0.83", "power_factor", "0.83"),
        ("S3 40 % 10 min", "duty", "S3 40% 10 min"),
        ("1440 min⁻¹", "speed", "1440 rpm"),
        ("DUTY 5 MIN", "duty", "5 MIN"),
        ("TIME RATING CONT 5 HP", "duty", "CONT"),
        ("SF 1.35 TIME 30 MIN", "service_factor", "1.35"),
        ("IP55 Th.Cl. 155(F) 4 kW", "insulation_class", "155(F)"),
        ("Ins. cl. F/B IP55", "insulation_class", "F"),
        ("Ins. cl. F/B IP55", "temperature_rise", "B"),
        ("Temp.rise: class B Isol. F", "insulation_class", "F"),
        ("TEMP RISE CLASS B INS F", "temperature_rise", "B"),
        ("3~ MOT 132 S IP55 5.5 kW", "frame", "132S"),
        ("1725 RPM 48 FRAME KVA CODE M", "frame", "48"),
        ("SF 1.0 48 FRAME 5 HP", "service_factor", "1.0"),
        ("SF 1.0 48 FRAME 5 HP", "frame", "48"),
        ("MODEL KD 460 V", "motor_type", "KD"),
        ("1750 RPM FRAME 184T 5 HP", "frame", "184T"),
        ("HORSEPOWER: 100", "power", "100 hp"),
        ("400 V 11.2 A cosφ 0.82 Y", "volts", "400 V Y"),
        ("230/400 V 25.9/14.9 A 50 Hz Δ/Y", "volts", "230/400 V Δ/Y"),
        ("400 V Δ 53 A 460 V Y", "volts", "400 V Δ"),
        ("230/460 V SF 1.15 USABLE AT 208V", "volts", "230/460 usable at 208"),
        ("IP66 Ta -20..+60°C 4 kW", "ambient", "-20..+60°C"),
        ("−20 °C ≤ Tamb ≤ +50 °C IP66", "ambient", "-20..+50°C"),
        ("EXPLOSION PROOF CLASS I GROUP D T3C", "listing", "CLASS I GROUP D T3C"),
        ("EXPLOSION PROOF CLASS I GROUP D T3C", "enclosure", "EXPLOSION PROOF"),
        ("ExdIIBT4 4 kW", "ex_marking", "ExdIIBT4"),
        ("EXT FAN 230 V 4 kW", "power", "4 kW"),
        ("11 kW IE 3 400 V 20 A", "efficiency_class", "IE3"),
        ("11 kW IE 3 400 V 20 A", "volts", "400"),
        ("IE 3 91.4 % 20 A", "full_load_current", "20"),
        ("75HP/55KW 575V", "power", "75 hp"),
        ("1481 min-1", "speed", "1481 rpm"),  # its last digit was taken for a turn a minute's
        ("1481/min", "speed", "1481 rpm"),
        ("1481 1/min", "speed", "1481 rpm"),
        ("1481r/min", "speed", "1481 rpm"),
        ("1481 U/min", "speed", "1481 rpm"),
        ("2981 tr/min", "speed", "2981 rpm"),
        ("PH 1 HP 1/2 VOLTS 115/230", "volts", "1~ 115/230"),
        ("3 HP 230 V 17 A 1 PHASE", "volts", "1~ 230"),
        ("1~ Mot. 1,5 kW 230 V", "volts", "1~ 230"),
        ("SINGLE PHASE 2 HP 230 V", "volts", "1~ 230"),
        ("PHASE: SINGLE VOLTS: 230", "volts", "1~ 230"),
        ("THREE-PHASE INDUCTION MOTOR 230 V", "volts", "230"),
        ("1/3 HP PSC 115 V 1PH", "volts", "115"),  # its kind says it
        ("3PH 460 V 75 HP", "volts", "460"),
        ("VOLTS 230/460 3 PH 60 HZ", "volts", "230/460"),  # the phases stood among the volts
        ("VOLTS 115/230 1 PH HP 1/2", "volts", "1~ 115/230"),
        ("SERNO 88 PH 1 VOLTS 230", "volts", "1~ 230"),
        ("NOM EFF 94.1 3 PH", "efficiency", "94.1"),
        ("1.15 SF 460 V 3 PH 60 HZ", "service_factor", "1.15"),
        ("1.15 SF 460 V 3 PH 60 HZ", "volts", "460"),
        ("40 C AMB 3 PH 1185 RPM", "ambient", "40C"),
        ("40 C AMB 3 PH 1185 RPM", "speed", "1185 rpm"),
        ("RPM 1740 PH 3 CYC 60 KVA J", "frequency", "60 Hz"),  # what stood behind its phases was lost
        ("RPM 1740 PH 3 CYC 60 KVA J", "code_letter", "J"),
        ("90 VDC 1/4 HP", "volts", "90 VDC"),
        ("180VDC 1 HP 5 A", "volts", "180 VDC"),
        ("22 kW 400Δ/690Y 40/23 A", "volts", "400Δ/690Y"),
        ("22 kW 400Δ/690Y 40/23 A", "full_load_current", "40/23"),
        ("22 kW 400Δ/690Y V 40/23 A", "volts", "400Δ/690Y"),
    ],
)
def test_forms_of_one_part(text, name, value):
    assert read_plate(text).texts[name] == value


@pytest.mark.parametrize(
    ("text", "kind"),
    [
        ("25 HP ARM VOLTS 500 ARM AMPS 43 FIELD VOLTS 300 FIELD AMPS 1.5 SHUNT WOUND", "dc-shunt"),
        ("DC SHUNT 20 HP ARM 240 V 70 A FIELD 150 V 1.5 A", "dc-shunt"),
        ("1/3 HP PSC 115 V 1PH", "permanent-split"),
        ("3-PHASE 400 V", None),
        ("CAPACITOR START 1 HP", "capacitor-start"),
        ("CAP START CAP RUN 3 HP", "capacitor-start-run"),
        ("SLIP-RING 75 kW", "wound"),
        ("PH 3 HP 75", None),
    ],
)
def test_the_machine_that_a_plate_names(text, kind):
    found = read_plate(text)
    assert found.texts.get("kind") == kind
    assert found.left == []
    assert found.texts.get("field_current", "1.5") == "1.5"


@pytest.mark.parametrize(
    "text", ["EXT FAN 230 V", "EXCITATION 150 V", "EXPORT 4 kW", "External fan", "Explosion proof"]
)
def test_a_word_is_no_marking(text):
    assert not {"listing", "ex_marking"} & read_plate(text).texts.keys()


@pytest.mark.parametrize(
    "text", ["SERNO 88123 PH 3 460 V", "HP 75 3 PH ZQX", "3 PH CATNO ZQX 460 V", "ZQX 12 PH 3 75 HP"]
)
def test_nothing_beside_the_phases_is_lost(text):
    found = read_plate(text)
    kept = " ".join([*found.texts.values(), *found.left]).split()
    assert {word for word in text.split() if word not in ("PH", "3", "HP", "V")} <= set(kept)


def test_a_colon_makes_a_label_whatever_stands_ahead_of_it():
    """Each number was taken for that of the label behind it: volts of 7.5, a speed of 26."""
    found = read_plate("HP: 10 KW: 7.5 VOLTS: 208-230/460 AMPS: 26-24/12 RPM: 1760 HZ: 60 PH: 3 S.F.: 1.15 CODE: H")
    assert found.texts == {
        "power": "10 hp", "volts": "208-230/460", "full_load_current": "26-24/12", "speed": "1760 rpm",
        "frequency": "60 Hz", "service_factor": "1.15", "code_letter": "H",
    }  # fmt: skip
    assert found.left == ["Power 7.5"]


def test_a_plate_of_two_connections_and_three_efficiencies():
    found = read_plate(
        "3~ 160M IMB3 V 400 D / 690 Y A 21.5 / 12.4 kW 11 min-1 1465 IE3-91.4%(100%) 91.5%(75%) 90.4%(50%) Duty S1 "
        "Ins.cl.155(F) Prod. code 3GX", RuleSetName.IEC,
    )  # fmt: skip
    assert found.texts == {
        "frame": "160M", "mounting": "IMB3", "volts": "400D/690Y", "full_load_current": "21.5/12.4", "power": "11 kW",
        "speed": "1465 rpm", "efficiency_class": "IE3", "efficiency": "91.4%", "duty": "S1",
        "insulation_class": "Th.Cl.155(F)",
    }  # fmt: skip
    assert {"91.5%(75%)", "90.4%(50%)", "Prod code 3GX"} <= {*found.left, *found.beside}


def test_what_belongs_to_no_field_is_told():
    assert read_plate("22 kW, 1470 rpm, cooled by oil").left == ["cooled by oil"]
    assert read_plate("22 kW, 1470 rpm, serial 7").beside == ["serial 7"]
    assert read_plate("HP 60\nHP 75").left == ["Power 75"]
    assert read_plate("5 A\n6 A", RuleSetName.IEC).left == ["Rated current 6"]


@pytest.mark.parametrize(
    ("text", "no_load"),
    [("NO LOAD AMPS 5", "5"), ("NL AMPS 5.2", "5.2"), ("N.L.A.: 5 A", "5 A"), ("FLA @ 460V 14", ""),
     ("AMPS AT 460 V: 14 A", "")],
)  # fmt: skip
def test_amperes_of_something_else_are_not_those_at_full_load(text, no_load):
    found = read_plate(f"10 HP 230/460 V 1765 RPM {text}")
    assert "full_load_current" not in found.texts
    assert (found.machine.get("no_load_current", ""), found.beside) == (no_load, [] if no_load else [text])


@pytest.mark.parametrize("text", [NEMA, IEC, GLUED, SINGLE])
def test_each_field_of_a_whole_plate_can_be_read(text):
    for rules in RuleSetName:
        assert not read_circuit({"plate": read_plate(text).texts}, rules)[1]


PARTS = re.split(r"  |\n", NEMA)


@given(st.permutations(PARTS))
def test_a_plate_of_labels_is_read_alike_in_any_order(parts):
    assert read_plate("  ".join(parts)).texts == read_plate(NEMA).texts


@given(st.permutations(["75 HP", "460 V", "92 A", "1185 RPM", "60 Hz", "TEFC", "405T", "INS F", "IP55", "S1"]))
def test_numbers_ahead_of_their_units_are_read_alike_in_any_order(parts):
    texts = read_plate(" ".join(parts)).texts
    assert texts == {
        "power": "75 hp", "volts": "460", "full_load_current": "92", "speed": "1185 rpm", "frequency": "60 Hz",
        "enclosure": "TEFC", "frame": "405T", "insulation_class": "F", "protection": "IP55", "duty": "S1",
    }  # fmt: skip


@given(st.text(max_size=200))
def test_any_text_is_answered(text):
    found = read_plate(text)
    assert all(value for value in found.texts.values())


@pytest.mark.parametrize(
    ("text", "texts", "left"),
    [
        (
            "This is a 10 HP, 3-phase motor with a brake, at 230/460 V, 28/14 A",
            {"power": "10 hp", "volts": "230/460", "full_load_current": "28/14"},
            "This is a, motor with a brake, at",
        ),
        (
            "hp 10 v 460 a 14 n 1760",
            {"power": "10 hp", "volts": "460", "full_load_current": "14", "speed": "1760"},
            "",
        ),
        ("a 14 hp 10", {"power": "10 hp", "full_load_current": "14"}, ""),
        ("14 a 460 v", {"volts": "460", "full_load_current": "14"}, ""),
    ],
)
def test_a_letter_is_a_label_beside_its_figure_and_a_word_elsewhere(text, texts, left):
    found = read_plate(text)
    assert found.texts == texts
    assert ", ".join(found.left) == left


WHOLE = {"power": "75 hp", "speed": "1185 rpm", "volts": "460", "full_load_current": "92", "service_factor": "1.15"}


@pytest.mark.parametrize(
    "text",
    [
        "75 HP, 1185 RPM, 460 V, 92 FLA, 3 PH, 1.15 SF",
        "75 HP / 460 V / 3 PH / 92 A / 1185 RPM / 1.15 SF",
        "75HP - 1185RPM - 460V - 92A - SF 1.15",
        "HP/KW 75/55  V 460  A 92  RPM 1185  PH 3  S.F. 1.15",
        "HP V A RPM S.F.\n75 460 92 1185 1.15",
    ],
)
def test_a_number_ahead_of_its_label_is_of_that_label(text):
    found = read_plate(text)
    assert found.texts == WHOLE
    assert found.left == []


TWO = {"power": "45 kW", "frequency": "50 Hz", "speed": "1480 rpm", "power_factor": "0.85"}


@pytest.mark.parametrize(
    ("text", "volts", "amps", "left"),
    [
        ("V Hz r/min kW A cosφ\n690 Y 50 1480 45 47 0.85\n400 Δ 50 1480 45 81 0.85", "690/400 Y/Δ", "47/81", []),
        ("V\tHz\tkW\tA\tmin-1\tcos φ\n400 Δ\t50\t45\t81\t1480\t0.85\n460 Δ\t60\t51.8\t81\t1780\t0.85",
         "400 Δ", "81", ["460 Δ 60 51.8 81 1780 0.85"]),
        ("V Hz r/min kW A cosφ Duty\n690 Y 50 1480 45 47 0.85 S1\n400 D 50 1480 45 81 0.85 S1", "690/400 Y/D", "47/81",
         []),
        ("Hz kW 1/min V A PF\n50 45 1480 400/690 Δ/Y 81/47 0.85", "400/690 Δ/Y", "81/47", []),
        ("400VΔ 690VY 45kW 81A/47A 50Hz 1480min-1 cosφ 0.85", "400/690 V Δ/Y", "81/47", []),
    ],
)  # fmt: skip
def test_a_block_of_ratings_is_read_by_its_rows(text, volts, amps, left):
    """The second connection's volts and amperes go with the first's; another frequency is another rating."""
    found = read_plate(text, RuleSetName.IEC)
    duty = {"duty": "S1"} if "Duty" in text else {}
    assert found.texts == TWO | {"volts": volts, "full_load_current": amps} | duty
    assert found.left == left


@pytest.mark.parametrize(
    ("text", "name", "value"),
    [
        ("1/2 HP THERMALLY PROTECTED TYPE A 4.4 A", "thermal_protection", "THERMALLY PROTECTED TYPE A"),
        ("75 HP INVERTER DUTY CT 6-60HZ, DUTY CONT", "duty", "CONT"),
        ("5 HP S3 - 40 %", "duty", "S3 - 40%"),
        ("HP 5 F.L. AMPS 28 S.F. AMPS 32", "service_factor_current", "32"),
        ("45 kW Ia/In=7.2; Ta/Tn 2.4", "starting_current_ratio", "7.2"),
        ("400 V D 45 kW | 60 Hz 460 V D 51.8 kW", "volts", "400 V D"),
        ("Δ/Y 230/400 V 8.3/4.8 A", "volts", "230/400 V Δ/Y"),
        ("HP 10 SF 1.15 USABLE AT 208V 27.8A", "service_factor", "1.15"),
        ("OUTPUT: 75HP(55kW) AMP: 92A", "power", "75 hp"),
        ("100 HP, 1.15SF, TEFC", "service_factor", "1.15"),
        ("L.R. AMPS: 162/81", "locked_rotor_current", "162/81"),
        ("AMPS AT SF 32.2/16.1", "service_factor_current", "32.2/16.1"),
        ("AMPS @ S.F. 32.2/16.1", "service_factor_current", "32.2/16.1"),
        ("MAX. AMPS 16.1", "service_factor_current", "16.1"),
        ("AMP 28/14 S.F. 1.15 S.F. AMP 32.2/16.1", "full_load_current", "28/14"),
        ("AMPS FL 28/14", "full_load_current", "28/14"),
    ],
)
def test_words_that_lead_astray(text, name, value):
    assert read_plate(text).texts[name] == value
