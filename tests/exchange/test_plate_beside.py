"""What stands on a plate beside the motor's ratings: it changes none of them, ahead of them or behind; what is said of
the machine goes to the machine.
"""

import pytest

from vinegate.core.facts import RuleSetName, read_circuit
from vinegate.exchange.plate_text import read_plate

PLATES = {
    RuleSetName.NEC: "HP 75 RPM 1185 VOLTS 230/460 FLA 184/92 HZ 60 PH 3 DES B CODE G SF 1.15 INS F ENCL TEFC FRAME 405T"
    " DUTY CONT EFF 94.1 PF 81",
    RuleSetName.IEC: "45 kW 400 VΔ/690 VY 81/47 A 50 Hz 1480 r/min cosφ 0.85 SF 1.0 IE3 94.2% IP55 IC411 IM B3 TEFC"
    " Th.Cl.F S1 225M",
}
NO_RATING = (
    "Weight: 250kg", "WT 180 KG", "WGT 405 LBS", "Mass 90 kg", "SER NO 160L", "SERIAL 160L", "Cat. 145T", "S/N 90S", "Serial: 112M", "No. 132",
    "Nr. 112M", "CAT NO 145T", "Order no. 100L", "Spec. No. 42B", "ID# 12A", "Motor No. 80", "Made in 2021",
    "Year 2021", "Space heater 120 V 75 W", "SPACE HTR 115V 40W", "Standstill heating 230 V", "Heater 230 V 50 W",
    "Brake 400 V 80 Nm", "Brake coil 230 V AC 0.5 A", "BRAKE 15 LB-FT 230/460 V", "Encoder 5 V", "Encoder 1024 ppr",
    "Fan motor 400 V 0.25 A 50 W", "Forced cooling 0.18 kW 400 V 0.5 A", "Max speed 3600 rpm", "nmax 4500 rpm",
    "Max rpm 4500", "4500 rpm max", "4500 RPM MAX.", "VPWM 6-60Hz CT", "CT 10:1", "1.0 S.F. on VFD", "Eff. 75% 93.5", "Eff 1/2 load 92.0",
    "Eff 50 % load 91", "Terminal box IP65", "IP65 terminal box", "Frame: cast iron", "Frame material cast iron",
    "Enclosure material aluminium", "INS SYSTEM R F-1", "Made in Harrowmere", "2 SPEED 1 WINDING VT", "LpA 68 dB",
    "EN 60034-1", "Max. capacitor 8 kVAr", "LRT 498 lb-ft", "Torque 194 Nm",
)  # fmt: skip


@pytest.mark.parametrize("rules", RuleSetName)
@pytest.mark.parametrize("line", NO_RATING)
def test_what_is_no_rating_changes_none(rules, line):
    plain = read_plate(PLATES[rules], rules)
    for text in (f"{line}\n{PLATES[rules]}", f"{PLATES[rules]}\n{line}"):
        found = read_plate(text, rules)
        assert found.texts == plain.texts, text
        assert not found.machine
        assert found.left or found.beside, text  # nothing goes unsaid


def test_a_blower_of_its_own_is_on_a_further_line_only():
    """The first line may be of a fan's own motor."""
    plate = read_plate(f"{PLATES[RuleSetName.IEC]}\nBlower 0.18 kW 400 V 0.5 A")
    assert plate.texts["power"] == "45 kW"
    assert plate.beside == ["Blower 0.18 kW 400 V 0.5 A"]
    assert read_plate("Blower 5 HP 460 V 7.6 A").texts["volts"] == "460"


@pytest.mark.parametrize(
    ("text", "name", "value"),
    [
        ("FRAME NO 145T", "frame", "145T"), ("FRAME: 250M", "frame", "250M"), ("250M", "frame", "250M"),
        ("5 HP BRAKE MOTOR 460 V 7 A", "volts", "460"), ("motor with brake, 460 V", "volts", "460"),
        ("EFF 75 % 60 HZ", "frequency", "60 Hz"), ("EFF 75 % 60 HZ", "efficiency", "75%"),
        ("MAX AMB 40C", "ambient", "40C"), ("AMB 40 °C TYPE CS", "ambient", "40 °C"), ("MAX AMPS 16.1",
        "service_factor_current", "16.1"), ("SF 1.15", "service_factor", "1.15"), ("50-60 Hz", "frequency", "50-60 Hz"),
        ("IP65", "protection", "IP65"), ("SPEED 1760 RPM", "speed", "1760 rpm"), ("460 V 92 A WT 405 LBS",
        "full_load_current", "92"), ("Frame L286TCZX", "frame", "L286TCZX"), ("RPM 17x0", "speed", "17x0"),
        ("75 HP 1185 RPM MAX AMB 40C", "speed", "1185 rpm"), ("75 HP 1185 RPM MAX AMB 40C", "ambient", "40C"),
        ("75 HP SER. F. 1.15", "service_factor", "1.15"),
        ("Brake power 55 kW", "power", "55 kW"), ("55 kW 460 V PH 3 - 60 Hz", "frequency", "60 Hz"),
        ("Weight 250kg Frame 250M", "frame", "250M"), ("WT 405 LBS FRAME 405T", "frame", "405T"),
        ("250 kg Made by hand 160M", "frame", "160M"), ("DC SHUNT 20 HP 1750/2300 RPM", "speed", "1750 rpm"),
    ],
)  # fmt: skip
def test_what_is_a_rating_is_read(text, name, value):
    """Near twins; what a field cannot read and has a number goes to the field, to be mended there."""
    assert read_plate(text).texts[name] == value


@pytest.mark.parametrize(
    ("text", "machine"),
    [
        ("Ia/In: 7.2\nMa/Mn 2.4\nMk/Mn 3.0\nJ = 0.29 kgm2", (2.4, 3.0, 0.29)),
        ("IA/IN 7.2 TA/TN 2.4 TB/TN 3.0 GD2 1.16 kgm2", (2.4, 3.0, 0.29)),
        ("LRT 240% BDT 300% of FLT, WK2 6.882 lb-ft2", (2.4, 3.0, 0.29)),
        ("Locked rotor torque: 240 % Breakdown torque: 300 % Moment of inertia J: 0,29 kg·m²", (2.4, 3.0, 0.29)),
        ("Ms/Mn 2.1", ()),
    ],
)
def test_what_is_said_of_the_machine_is_the_machines(text, machine):
    """IEC 60034-12 for the symbols; GD² is four times the inertia; 1 lb·ft² is 0.04214 kg·m²."""
    found = read_plate(f"{PLATES[RuleSetName.IEC]}\n{text}")
    assert found.texts["full_load_current"] == "81/47"
    read = read_circuit({"plate": found.texts, "machine": found.machine}, RuleSetName.IEC)
    assert not read[1]
    facts = read[0].machine
    got = (facts.locked_rotor_torque_pu, facts.breakdown_torque_pu, facts.inertia_kgm2) if found.machine else ()
    assert got == pytest.approx(machine, rel=1e-3)


def test_stall_times_and_amperes_at_no_load():
    found = read_plate("75 HP 92 A NO LOAD AMPS 31\nSafe stall time (hot) 15 s, stall time 22 s cold")
    assert found.machine == {"no_load_current": "31", "stall_hot": "15 s", "stall_cold": "22 s"}
    assert found.texts["full_load_current"] == "92"
    twice = read_plate("NLA 31\nNLA 33")
    assert (twice.machine["no_load_current"], twice.left) == ("31", ["NLA 33"])
