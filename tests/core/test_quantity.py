import pytest

from vinegate.core import quantity as q
from vinegate.core.numbers import QuantityError, read_numbers, write


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
    ],
)
def test_reads_what_people_write(kind, text, value):
    assert kind.read(text) == pytest.approx(value, rel=1e-12)


@pytest.mark.parametrize(
    ("kind", "text", "words"),
    [
        (q.POWER, "30 V", "“V” does not measure power"),
        (q.POWER, "30 Q", "“Q” is not a unit of power: write it like 30 hp or 22 kW."),
        (q.POWER, "hp", "does not begin with a number"),
        (q.POWER, "1/0 hp", "divides by zero"),
        (q.CURRENT, "184/92", "is two numbers: one is asked here"),
        (q.CURRENT, "92/184 A", "is two numbers"),
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
