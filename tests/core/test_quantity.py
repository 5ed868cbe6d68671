import pytest

from vinegate.core import quantity as q
from vinegate.core.drive.quantities import HENRY
from vinegate.core.facts import RuleSetName, model_of, read_circuit
from vinegate.core.numbers import QuantityError, read_numbers, write
from vinegate.core.supply.cable import read_size_us
from vinegate.core.supply.facts import read_fault_level


@pytest.mark.parametrize(
    ("kind", "text", "value"),
    [
        (q.POWER, "30 hp", 30 * 745.699872),
        (q.POWER, "30HP", 30 * 745.699872),
        (q.POWER, "22 kW", 22000),
        (q.POWER, "22", 22000),  # a bare power is kilowatts
        (q.POWER, "22000 W", 22000),
        (q.POWER, "1 1/2 hp", 1.5 * 745.699872),
        (q.POWER, "1-1/2 hp", 1.5 * 745.699872),
        (q.POWER, "7½ hp", 7.5 * 745.699872),
        (q.POWER, "18,5 kW", 18500),  # decimal comma
        (q.VOLTAGE, "0.46 kV", 460),  # exactly, not 460.00000000000006
        (q.SPEED, "1 760", 1760),
        (q.SPEED, "1\u202f760", 1760),  # narrow no-break space as thousands mark
        (q.SPEED, "1,760", 1760),  # 1.76 r/min is no motor's speed
        (q.SPEED, "1.760,5", 1760.5),
        (q.SPEED, "1,760.5 rpm", 1760.5),
        (q.SPEED, "1480 min⁻¹", 1480),
        (q.SPEED, "1480 r/min", 1480),
        (q.LENGTH, "200 ft", 60.96),
        (q.LENGTH, "200'", 60.96),
        (q.EFFICIENCY, "94.1 %", 0.941),
        (q.EFFICIENCY, "94,1", 0.941),
        (q.EFFICIENCY, "0.941", 0.941),
        (q.POWER_FACTOR, "86 %", 0.86),
        (q.IMPEDANCE_PERCENT, "5", 0.05),
        (q.IMPEDANCE_PERCENT, "0.05", 0.05),
        (q.APPARENT_POWER, "0.5 MVA", 500e3),
        (q.RISE, "40 °C", 40),
        (q.AMBIENT, "104 °F", 40),
        (q.AMBIENT, "-4 F", -20),
        (q.FREQUENCY, "60 cps", 60),
        (q.SERVICE_FACTOR, "1.15 SF", 1.15),
        (q.INERTIA, "20 lb·ft² Wk²", 20 * 0.3048**2 * 0.45359237),
        (q.INERTIA, "20 wk2", 20 * 0.3048**2 * 0.45359237),
        (q.POWER, "3/4 hp", 0.75 * 745.699872),
        (q.POWER, ".25 hp", 0.25 * 745.699872),
        (q.POWER, "7-1/2 hp", 7.5 * 745.699872),
        (q.SPEED, "1485 1/min", 1485),  # no thousands: a number and its unit
        (q.SPEED, "1 485 1/min", 1485),
        (q.POWER, "75 hp (56 kW)", 75 * 745.699872),  # once more in the other unit, as plates have it
        (q.POWER, "55kW/75hp", 55000),
        (q.AMBIENT, "104 °F (40 °C)", 40),
        (q.GEAR_RATIO, "24.5 : 1", 24.5),
        (q.CURRENT_RATIO, "7,2 ×", 7.2),
        (q.INERTIA, "900 kg·cm²", 0.09),
        (q.TORQUE, "43 kgf·m", 43 * 9.80665),
        (q.APPARENT_POWER, "500 KVA", 500e3),
        (q.HOURS, "4000 h/a", 4000),
        (q.HOURS, "4000 hours per year", 4000),
        (q.COUNT_PER_HOUR, "4/h", 4),
        (q.COUNT_PER_HOUR, "4 starts per hour", 4),
        (q.TIMES_CURRENT, "3.5 × FLA", 3.5),
        (q.CURRENT_RATIO, "7,2 I_N", 7.2),
        (q.IMPEDANCE_PERCENT, "5.75 %Z", 0.0575),
        (q.IMPEDANCE_PERCENT, "0.0575 pu", 0.0575),
        (q.POWER_FACTOR, "0.86 lagging", 0.86),
        (q.SHARE, "65 per cent", 0.65),
        (q.VOLTAGE, "460 V rms", 460),
        (q.FAULT_CURRENT, "22 kAIC", 22e3),
        (q.RESIDUAL_CURRENT, "30ma", 0.03),
        (q.SPEED, "1760 rev/min", 1760),
        (q.AMBIENT, "40 ºC", 40),
        (q.AMBIENT, "40°", 40),
        (q.SIZE, "14 cm", 0.14),
        (q.TORQUE, "310 FT-LBS", 310 * 0.3048 * 0.45359237 * 9.80665),
        (q.TORQUE, "310 pound-feet", 310 * 0.3048 * 0.45359237 * 9.80665),
        (q.TORQUE, "120 in-lbs", 120 * 0.0254 * 0.45359237 * 9.80665),
        (q.TORQUE, "420 N-m", 420),
        (q.INERTIA, "0.9 kg-m2", 0.9),
        (q.INERTIA, "100 lb-in²", 100 * 0.0254**2 * 0.45359237),
        (q.INERTIA, "2 slug-ft2", 2 * 0.3048 * 0.45359237 * 9.80665),
        (q.FLOW, "7 m³/min", 7 / 60),
        (q.FLOW, "420 m3/hr", 420 / 3600),
        (q.FLOW, "20 L/h", 0.02 / 3600),
        (q.FLOW, "2 MGD", 2e6 * 231 * 0.0254**3 / 86400),
        (q.FLOW, "3 ft³/s", 3 * 0.3048**3),
        (q.FLOW, "100 imp gpm", 100 * 4.54609e-3 / 60),
        (q.PRESSURE, '3.6" w.g.', 3.6 * 249.08891),
        (q.PRESSURE, "9 mbar", 900),
        (q.PRESSURE, "9 hPa", 900),
        (q.PRESSURE, "120 psig", 120 * 0.45359237 * 9.80665 / 0.0254**2),
        (q.PRESSURE, "2 mWC", 2 * 9806.65),
        (q.PRESSURE, "10 ft H2O", 10 * 12 * 249.08891),
        (q.HEAD, "32 m H₂O", 32),
        (q.FORCE, "4000 lbs", 4000 * 0.45359237 * 9.80665),
        (q.FORCE, "2 tonnes", 2000 * 9.80665),
        (q.FORCE, "4 kip", 4000 * 0.45359237 * 9.80665),
        (q.LINE_SPEED, "0.65 ft/sec", 0.65 * 0.3048),
        (q.DENSITY, "1.02 g/cm³", 1020),
        (q.SOIL, "90 °C·cm/W", 0.9),
        (q.OHMS, "250 mOhm", 0.25),  # capitals tell milli from mega
        (q.OHMS, "0.02 MOHM", 20e3),
        (HENRY, "0.004 H", 0.004),
        (q.LET_THROUGH, "200 kA²·s", 200e6),
        (q.FIELD_VOLTAGE, "150 V DC", 150),
        (q.BUS_VOLTAGE, "760 V d.c.", 760),
        (q.DEVICE_CURRENT, "125 A 3P", 125),
        (q.DEVICE_CURRENT, "500A/3P", 500),
        (q.DEVICE_CURRENT, "100 AT", 100),
        (q.DEVICE_CURRENT, "3-pole 63 A", 63),
        (q.DEVICE_CURRENT, "3P 63", 63),
        (q.DIRECT_VOLTS, "500VDC", 500),
        (q.PRICE, "$0.14/kWh", 0.14),
        (q.SERVICE_FACTOR, "SF 1.15", 1.15),  # with its name, as it stands on the plate
        (q.POWER_FACTOR, "cos φ 0,86", 0.86),
        (q.SERVICE_FACTOR, "S.F. 1.25", 1.25),
        (q.EFFICIENCY, "EFF. 94.1", 0.941),
        (q.EFFICIENCY, "NEMA NOM. EFF. 94.1", 0.941),
        (q.EFFICIENCY, "IE3-94,1 %", 0.941),
        (q.EFFICIENCY, "94.1 NEMA", 0.941),
        (q.TEMPERATURE, "AMB. 40 C", 40.0),
        (q.RISE, "40C RISE", 40.0),
        (q.CURRENT_RATIO, "IA/IN 7.2", 7.2),
        (q.IMPEDANCE_PERCENT, "%Z = 5.75", 0.0575),
        (q.GEAR_RATIO, "i = 24.5", 24.5),
        (q.PRICE, "0,14 € per kWh", 0.14),
    ],
)
def test_reads_what_people_write(kind, text, value):
    assert kind.read(text) == pytest.approx(value, rel=1e-12)


@pytest.mark.parametrize(
    ("kind", "text", "words"),
    [
        (q.POWER, "30 V", "“V” does not measure power"),
        (q.FORCE, "2 tons", "“tons” is not a unit of force"),  # long, short or metric
        (q.POWER_FACTOR, "0.86 leading", "“leading” is not a unit"),
        (q.EFFICIENCY, "PF 0.86", "does not begin with a number"),  # another's name
        (q.SERVICE_FACTOR, "SF", "does not begin with a number"),
        (q.CURRENT, "fuse 92 A", "does not begin with a number"),
        (q.VOLTAGE, "240 V DC", "is not a unit"),  # of a line
        (q.CURRENT, "92 A DC", "is not a unit"),
        (q.HOURS, "8 h/day", "“h/day” is not a unit"),
        (q.COUNT_PER_HOUR, "4 per week", "“per week” is not a unit"),
        (q.TORQUE, "20 lb-ft²", "does not measure torque"),
        (q.POWER, "30 Q", "“Q” is not a unit of power: write it like 30 hp or 22 kW."),
        (q.POWER, "hp", "does not begin with a number"),
        (q.POWER, "1/0 hp", "divides by zero"),
        (q.CURRENT, "184/92", "is two numbers: one is asked here"),
        (q.CURRENT, "92/184 A", "is two numbers"),
        (q.POWER, "4/4.6 kW", "is two numbers"),
        (q.POWER, "10-15 hp", "is two numbers"),
        (q.SERVICE_FACTOR, "1.15 / 1.0", "is two numbers"),
        (q.POWER, "1,125 kW", "can be read as 1125 or as 1.125"),  # both could be meant: ask
        (q.VOLTAGE, "460000", "460000 is outside what a voltage here can be: 50 to 1100 V."),
        (q.ASKED_TORQUE.in_us(), "0", "0.0007376 to 7375621 lb-ft."),
        (q.HEAD, "0", "0.01 to 5000 m."),
        (q.RISE, "1", "5 to 200 K."),
        (q.AMBIENT, "90", "90 is outside what an ambient here can be: −40 to 85 °C."),
        (q.VOLTAGE, "460 kV", "0.05 to 1.1 kV"),  # the range comes in the unit that was typed
        (q.POWER_FACTOR, "1.2", "outside"),
        (q.LENGTH, "-5 m", "outside"),
        (q.SPEED, "1..2", "not a number"),
        (q.CURRENT, "92 94", "“94” is not a unit"),
        (q.SPEED, "14 85", "“85” is not a unit"),
        (q.POWER, "75 hp (65 kW)", "is not a unit"),  # two values that are not one
    ],
)
def test_says_what_is_wrong_in_the_persons_units(kind, text, words):
    with pytest.raises(QuantityError) as caught:
        kind.read(text)
    assert words in str(caught.value)


@pytest.mark.parametrize(
    ("value", "digits", "text"),
    [
        (0, 4, "0"),
        (592.96, 3, "593"),
        (-3.2, 4, "−3.2"),
        (1.2e-5, 4, "0.000012"),
        (123456, 3, "123456"),
        (9.9996, 4, "10"),
    ],
)
def test_writes_without_exponents_or_idle_zeros(value, digits, text):
    assert write(value, digits) == text


@pytest.mark.parametrize(
    ("kind", "text", "us", "si"),
    [
        (q.POWER, "30", 30 * 745.699872, 30e3),
        (q.POWER, "7-1/2", 7.5 * 745.699872, 7500),
        (q.LENGTH, "200", 60.96, 200),
        (q.INERTIA, "20", 20 * 0.3048**2 * 0.45359237, 20),
        (q.TORQUE, "50", 50 * 0.3048 * 4.4482216152605, 50),
        (q.FORCE, "100", 444.82216152605, 100),
        (q.FLOW, "420", 420 * 3.785411784e-3 / 60, 420 / 3600),
        (q.LINE_SPEED, "40", 40 * 0.3048 / 60, 40),
        (q.VOLTAGE, "460", 460, 460),  # the same in both
        (q.POWER, "22 kW", 22000, 22000),  # a unit that stands there is what it says
    ],
)
def test_a_bare_number_is_read_in_the_dialects_unit(kind, text, us, si):
    assert kind.in_us().read(text) == pytest.approx(us, rel=1e-7)
    assert kind.read(text) == pytest.approx(si, rel=1e-12)


@pytest.mark.parametrize(
    ("kind", "text", "us", "si"),
    [
        (q.POWER, "30", "= 30 hp, 22.4 kW", "= 30 kW, 40.2 hp"),
        (q.POWER, "30 HP", "", "= 22.4 kW"),
        (q.POWER, "22kW", "= 29.5 hp", ""),
        (q.LENGTH, "200'", "", "= 61 m"),
        (q.LENGTH, "62 metres", "= 203 ft", ""),
        (q.POWER, "fast", "", ""),
        (q.VOLTAGE, "460", "", ""),
    ],
)
def test_what_was_understood_is_echoed_where_it_might_be_taken_otherwise(kind, text, us, si):
    assert (kind.echo(text, us=True), kind.echo(text, us=False)) == (us, si)


def test_fahrenheit_measures_temperatures_alone():
    with pytest.raises(QuantityError, match="not a unit of temperature rise"):
        q.RISE.read("80 °F")
    with pytest.raises(QuantityError, match="−40 to 85 °C"):
        q.AMBIENT.read("400 °F")


@pytest.mark.parametrize("text", ["10 20", "1 2345", "12 345 6", "1'23"])
def test_two_numbers_are_not_one(text):
    with pytest.raises(QuantityError, match="is not one number"):
        read_numbers(text)


@pytest.mark.parametrize("text", ["1 234", "1'234.5", "12\u202f345", "−1 234,5"])
def test_thousands_are_parted_by_three(text):
    assert abs(read_numbers(text)[0]) in (1234, 1234.5, 12345)


@pytest.mark.parametrize("text", ["nan", "inf", "-Infinity", "1e999"])
def test_what_no_number_can_be_is_none(text):
    with pytest.raises(QuantityError, match="is not a number"):
        read_numbers(text)


@pytest.mark.parametrize(
    ("text", "size"),
    [("AWG 4", "4 AWG"), ("No. 4", "4 AWG"), ("4 ga", "4 AWG"), ("00 AWG", "2/0 AWG"), ("0000", "4/0 AWG"),
     ("2.5 sq.mm", "2.5 mm²"), ("250MCM", "250 kcmil")],
)  # fmt: skip
def test_a_conductors_size_as_it_is_called(text, size):
    assert read_size_us(text) == size


@pytest.mark.parametrize("text", ["22 kAIC", "22,000 AIC", "22 kA sym", "22KA rms", "22000 amps"])
def test_a_fault_current_as_breakers_have_it(text):
    assert read_fault_level(text).current_a == 22e3


@pytest.mark.parametrize("text", ["22", "boundless", "22 kW"])
def test_a_fault_level_is_amperes_or_volt_amperes(text):
    with pytest.raises(QuantityError, match="needs its unit"):
        read_fault_level(text)


@pytest.mark.parametrize(
    ("kind", "text", "plain"),
    [
        (q.POWER, "HP 75", "75 hp"),
        (q.POWER, "kW 55", "55 kW"),
        (q.POWER, "P2 = 55 kW", "55 kW"),
        (q.POWER, "PS 75", "75 PS"),
        (q.DIP_LIMIT, "≤ 4 %", "4 %"),
        (q.DIP_LIMIT, "max. 4 %", "4 %"),
        (q.VOLTS_LIMIT, ">= 85 %", "85 %"),
    ],
)
def test_what_a_plate_or_a_contract_writes_ahead_of_a_value_is_part_of_it(kind, text, plain):
    assert kind.read(text) == kind.read(plain)


@pytest.mark.parametrize(
    ("kind", "text", "value"),
    [(q.INERTIA, "J3.2 kg·m²", 3.2), (q.INERTIA, "J_L = 3.2 kg·m²", 3.2), (q.POWER, "P 22 kW", 22000)],
)
def test_a_sign_ahead_takes_no_figure_of_its_value(kind, text, value):
    assert kind.read(text) == value


@pytest.mark.parametrize("text", ["P22 kW", "P222"])
def test_a_sign_that_runs_into_its_value_is_asked_back(text):
    """22 kW, or 2 kW of P2?"""
    with pytest.raises(QuantityError):
        q.POWER.read(text)


@pytest.mark.parametrize(
    ("path", "text", "value"),
    [
        ("plate.power", "75 hp nominal", 75 * 745.699872), ("plate.power", "55kW output", 55e3),
        ("plate.power", "9/16 hp", 9 / 16 * 745.699872), ("plate.power", "1/25 hp", 745.699872 / 25),
        ("load.power", "51.5 kW shaft", 51.5e3), ("load.power", "69 hp absorbed", 69 * 745.699872),
        ("plate.speed", "1185 rpm FL", 1185), ("plate.speed", "1185 RPM nameplate", 1185),
        ("plate.power_factor", "0.81 PF", 0.81), ("plate.locked_rotor_current", "560 A LRA", 560),
        ("plate.locked_rotor_current", "LRA 560", 560), ("wiring.length", "200 ft one way", 60.96),
        ("wiring.length", "200 ft (one-way)", 60.96), ("wiring.length", "200 lf", 60.96), ("wiring.length", "62 m run", 62),
        ("supply.transformer_impedance", "uk 4 %", 0.04), ("supply.transformer_impedance", "u_kr = 4 %", 0.04),
        ("supply.transformer_impedance", "%IZ 5.75", 0.0575), ("protection.short_circuit_rating", "18 kA SCCR", 18e3),
        ("protection.short_circuit_rating", "18kAIC", 18e3), ("machine.locked_rotor_torque", "150 % of FLT", 1.5),
        ("limits.terminal", "85 % min", 0.85), ("wiring.ambient", "40 °C max", 40),
    ],
)  # fmt: skip
def test_words_beside_a_value_that_say_what_its_field_is(path, text, value):
    part, _, name = path.partition(".")
    assert model_of(part).fields()[name].reader(us=True)(text) == pytest.approx(value)


@pytest.mark.parametrize(
    ("path", "text"),
    [
        ("supply.transformer_power", "500/667 kVA"), ("plate.power", "75/60 hp"), ("machine.no_load_current", "9/19 A"),
        ("wiring.length", "60 m each"), ("wiring.length", "200 ft round trip"), ("plate.power", "75 hp absorbed"),
        ("plate.speed", "1800 sync"), ("plate.locked_rotor_current", "6.1 x FLA"),
    ],
)  # fmt: skip
def test_words_and_numbers_that_say_something_else_are_asked_back(path, text):
    """Two coolings' ratings are no part of one: 500/667 kVA was 750 VA."""
    part, _, name = path.partition(".")
    with pytest.raises(QuantityError):
        model_of(part).fields()[name].reader(us=True)(text)


@pytest.mark.parametrize("text", ["500/667 kVA", "500 / 667 / 833 kVA"])
def test_a_transformers_impedance_is_that_of_its_rating_without_fans(text):
    """IEEE C57.12.00: per cent impedance is on the self-cooled rating."""
    with pytest.raises(QuantityError, match="without fans: write 500 kVA"):
        model_of("supply").fields()["transformer_power"].read(text)


@pytest.mark.parametrize("text", ["14 kA symmetrical", "14kA bolted", "14 kA 3-phase", "14 kA sym."])
def test_a_fault_level_of_three_phases_is_the_one_that_is_asked(text):
    assert read_fault_level(text).current_a == 14000


FOOT, INCH = 0.3048, 0.0254


@pytest.mark.parametrize(
    ("kind", "text", "value"),
    [
        (q.LENGTH, "12' 6\"", 12.5 * FOOT), (q.LENGTH, "12 ft 6 in", 12.5 * FOOT), (q.LENGTH, "12\u2032-6\u2033", 12.5 * FOOT),
        (q.LENGTH, "12'-6 1/2\"", 12 * FOOT + 6.5 * INCH), (q.LENGTH, "200-ft", 200 * FOOT), (q.LENGTH, "200\u2019", 200 * FOOT),
        (q.SIZE, "1'-2\"", 14 * INCH), (q.SECONDS, "1 min 30 s", 90.0),
    ],
)  # fmt: skip
def test_a_unit_and_a_smaller_one_behind_it_are_one_value(kind, text, value):
    assert kind.read(text) == pytest.approx(value)


@pytest.mark.parametrize(
    "text", ["12 ft 14 in", "12 in 6 ft", "12 ft 6", "12 ft 6 kg", "12 m 6 in", "12 ft 6 in 3 in", "9000 ft 13 in"]
)
def test_two_that_are_no_sum_are_not_added(text):
    """Inches beyond a foot, the smaller one first, no unit, another dimension, no pair that people write."""
    with pytest.raises(QuantityError):
        q.LENGTH.read(text)


def test_a_sum_out_of_range_says_between_what_it_may_be():
    with pytest.raises(QuantityError, match="outside what a length here can be: 0 to 1640"):
        q.LENGTH.read("20000 ft 6 in")


# 1,200 A and 1,200 ft: a comma ahead of three digits parts thousands in the United States (NIST SP 811, 10.5.3 names it)
@pytest.mark.parametrize(
    ("kind", "text", "value"),
    [
        (q.LENGTH, "1,200 ft", 1200 * FOOT), (q.LENGTH, "1,200", 1200 * FOOT), (q.CURRENT, "1,200 A", 1200.0),
        (q.CURRENT, "1,2 A", 1.2), (q.CURRENT, "1,20 A", 1.2), (q.SERVICE_FACTOR, "1,150", 1.15), (q.CURRENT, "0,500 A", 0.5),
    ],
)  # fmt: skip
def test_under_nec_a_comma_ahead_of_three_digits_parts_thousands_where_both_could_be(kind, text, value):
    assert kind.in_us().read(text) == pytest.approx(value)


def test_under_iec_it_is_asked():
    with pytest.raises(QuantityError, match=r"can be read as 1200 or as 1\.2:"):
        q.CURRENT.read("1,200 A")


@pytest.mark.parametrize(
    ("path", "text", "nec", "iec"),
    [
        ("plate.full_load_current", "1,180/590", "1180/590", ""),
        ("plate.locked_rotor_current", "1,680 A", 1680.0, ""),
        ("plate.full_load_current", "12,5/6,25", "12.5/6.25", "12.5/6.25"),
        ("plate.full_load_current", "12,500", "12500", ""),
    ],
)
def test_amperes_of_several_connections_likewise(path, text, nec, iec):
    part, _, name = path.partition(".")
    for rules, expected in (("nec", nec), ("iec", iec)):
        circuit, errors = read_circuit({part: {name: text}}, RuleSetName(rules))
        found = getattr(circuit.plate, name if hasattr(circuit.plate, name) else f"{name}_a")
        assert (getattr(found, "text", found) == expected) if expected else errors


@pytest.mark.parametrize(
    ("text", "size"), [("1,000 kcmil", "1000 kcmil"), ("1,000 MCM", "1000 kcmil"), ("1,000", "1000 kcmil")]
)
def test_a_size_in_thousands_of_mils(text, size):
    assert read_size_us(text) == size


@pytest.mark.parametrize(
    "text", ["225 A", "225 A MCB", "225A MCCB 3P", "225A 3P", "225AT/400AF", "225 A main breaker", "225 A fuse"]
)
def test_a_board_takes_its_devices_amperes_of_whatever_kind(text):
    assert q.BOARD_DEVICE_CURRENT.read(text) == 225
