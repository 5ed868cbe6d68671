"""What each field takes at both ends, typed as people write it, beside what it no longer takes."""

import pytest

from vinegate.core import quantity as q
from vinegate.core.numbers import QuantityError
from vinegate.core.record import quantities as readings

EVERY = vars(readings) | vars(q)

# Just taken and just refused at the lower end, just taken and just refused at the upper one; "" where nothing is.
ENDS = {
    "POWER": ("10 W", "9 W", "5 MW", "5.1 MW"),
    "RATED_POWER": ("10 W", "9 W", "5 MW", "5.1 MW"),
    "SHAFT_POWER": ("10 W", "9 W", "5 MW", "5.1 MW"),
    "VOLTAGE": ("50 V", "49 V", "1.1 kV", "1.11 kV"),
    "PRIMARY_VOLTAGE": ("100 V", "99 V", "400 kV", "401 kV"),
    "DEVICE_CURRENT": ("10 mA", "9 mA", "20 kA", "20.1 kA"),
    "BOARD_DEVICE_CURRENT": ("10 mA", "9 mA", "20 kA", "20.1 kA"),
    "SWITCH_CURRENT": ("10 mA", "9 mA", "20 kA", "20.1 kA"),
    "CURRENT": ("10 mA", "9 mA", "20 kA", "20.1 kA"),
    "FREQUENCY": ("10 Hz", "9.9 Hz", "400 Hz", "401 Hz"),
    "SPEED": ("50 rpm", "49 rpm", "25000 rpm", "25100 rpm"),
    "LENGTH": ("0 m", "-1 m", "5 km", "5.1 km"),
    "SIZE": ("10 mm", "9 mm", "3 m", "3.1 m"),
    "FAULT_CURRENT": ("50 A", "49 A", "400 kA", "401 kA"),
    "RATED_FAULT": ("500 A", "499 A", "400 kA", "401 kA"),
    "FAULT_POWER": ("10 kVA", "9 kVA", "100 GVA", "101 GVA"),
    "APPARENT_POWER": ("0.5 kVA", "0.49 kVA", "200 MVA", "201 MVA"),
    "IMPEDANCE_PERCENT": ("0.5 %", "0.4 %", "25 %", "26 %"),
    "EFFICIENCY": ("10 %", "9 %", "99.5 %", "99.6 %"),
    "POWER_FACTOR": ("0.05", "4 %", "1.00", "1.01"),
    "SERVICE_FACTOR": ("1.0", "0.99", "1.75", "1.76"),
    "DIP_LIMIT": ("0.1 %", "0.09 %", "100 %", "101 %"),
    "VOLTS_LIMIT": ("20 %", "19 %", "100 %", "101 %"),
    "MARGIN": ("0 %", "-1 %", "200 %", "201 %"),
    "CURRENT_RATIO": ("1.5", "1.4", "15", "15.1"),
    "X_OVER_R": ("0.05", "0.04", "100", "101"),
    "RISE": ("5 K", "4 K", "200 K", "201 K"),
    "TORQUE_RATIO": ("20 %", "19 %", "600 %", "601 %"),
    "INERTIA": ("0.00001 kg·m²", "0.000009 kg·m²", "10000 kg·m²", "10100 kg·m²"),
    "DURATION": ("50 ms", "49 ms", "60 min", "61 min"),
    "OHMS": ("0.01 mΩ", "0.009 mΩ", "100 kΩ", "101 kΩ"),
    "TEST_VOLTAGE": ("1 V", "0.9 V", "1100 V", "1101 V"),
    "TEST_POWER": ("1 W", "0.9 W", "5000 kW", "5001 kW"),
    "FIELD_VOLTAGE": ("1 V", "0.9 V", "1100 V", "1101 V"),
    "TEMPERATURE": ("-60 °C", "-61 °C", "400 °C", "401 °C"),
    "TORQUE": ("0 N·m", "-1 N·m", "10000 kN·m", "10001 kN·m"),
    "ASKED_TORQUE": ("0.001 N·m", "0 N·m", "10000 kN·m", "10001 kN·m"),
    "ROPE_PULL": ("1 N", "0 N", "100 MN", "101 MN"),
    "FORCE": ("0 N", "-1 N", "100 MN", "101 MN"),
    "LINE_SPEED": ("0.1 mm/s", "0 m/s", "100 m/s", "101 m/s"),
    "FLOW": ("0.0000001 m³/s", "0 m³/s", "1000 m³/s", "1001 m³/s"),
    "HEAD": ("0.01 m", "0 m", "5 km", "5.1 km"),
    "PRESSURE": ("0.1 Pa", "0 Pa", "100 MPa", "101 MPa"),
    "DENSITY": ("0.1 kg/m³", "0.09 kg/m³", "20000 kg/m³", "20100 kg/m³"),
    "BREAKAWAY": ("0 %", "-1 %", "300 %", "301 %"),
    "HOLDING_FACTOR": ("1.0", "0.99", "5.0", "501 %"),
    "GEAR_RATIO": ("0.01", "0.009", "2000", "2001"),
    "COUNT_PER_HOUR": ("0", "-1", "1000", "1001"),
    "REACTIVE_POWER": ("0 kvar", "-1 kvar", "100 Mvar", "101 Mvar"),
    "LOAD_POWER": ("0 kVA", "-1 kVA", "200 MVA", "201 MVA"),
    "REACTANCE_PERCENT": ("2 %", "1.9 %", "60 %", "61 %"),
    "TIMES_CURRENT": ("0.5", "0.4", "9", "9.1"),
    "SECONDS": ("0 s", "-1 s", "3600 s", "3601 s"),
    "CARRIED": ("0.1 ms", "0.09 ms", "3600 s", "3601 s"),
    "SHARE": ("2 %", "1.9 %", "100 %", "101 %"),
    "PULSE": ("10 %", "9 %", "100 %", "101 %"),
    "CONDUCTOR_TEMPERATURE": ("-20 °C", "-21 °C", "250 °C", "251 °C"),
    "PRICE": ("0", "-1", "100000", "100100"),
    "FLICKER": ("0.1", "0.09", "10", "10.1"),
    "ZERO_RATIO": ("0.5", "0.4", "10", "10.1"),
    "AMBIENT": ("-40 °C", "-41 °C", "85 °C", "86 °C"),
    "COIL_VOLTAGE": ("6 V", "5.9 V", "690 V", "691 V"),
    "EARTH_RESISTANCE": ("0.05 Ω", "0.04 Ω", "10 kΩ", "10.1 kΩ"),
    "RESIDUAL_CURRENT": ("5 mA", "4 mA", "30 A", "31 A"),
    "HOURS": ("0", "-1", "8784", "8785"),
    "TURNS": ("0 turns", "-1 turns", "100000 turns", "100100 turns"),
    "WORK": ("1 J", "0.9 J", "10000 GJ", "10100 GJ"),
    "STRETCH": ("1 s", "0.9 s", "10000 min", "10100 min"),
    "SOIL": ("0.3 K·m/W", "0.29 K·m/W", "5 K·m/W", "5.1 K·m/W"),
    "LET_THROUGH": ("1 A²s", "0.9 A²s", "1000000 A²s", ""),
    "READ_VOLTS": ("0 V", "-1 V", "1200 V", "1201 V"),
    "READ_AMPS": ("0 A", "-1 A", "50 kA", "50.1 kA"),
    "READ_POWER": ("0 kW", "-1 kW", "5000 kW", "5001 kW"),
    "INSULATION": ("1 Ω", "0.9 Ω", "100 TΩ", "101 TΩ"),
    "VIBRATION": ("0 mm/s", "-1 mm/s", "1000 mm/s", "1001 mm/s"),
    "BUS_VOLTAGE": ("50 V DC", "49 V DC", "1200 V DC", "1201 V DC"),
    "DIRECT_VOLTS": ("50 V", "49 V", "15 kV", "15.1 kV"),
}


def test_every_quantity_stands_here():
    assert set(ENDS) == {name for name, value in EVERY.items() if isinstance(value, q.Quantity)}


@pytest.mark.parametrize("name", ENDS)
def test_takes_what_may_be_and_no_more(name):
    kind, (least, under, most, over) = EVERY[name], ENDS[name]
    assert kind.read(least) <= kind.read(most)
    for text in filter(None, (under, over)):
        with pytest.raises(QuantityError, match="outside"):
            kind.read(text)


def test_a_bare_number_that_may_be_either_is_asked_about():
    with pytest.raises(QuantityError, match=r"0\.45 can be 0\.45 % or 45 %: write the sign"):
        q.DIP_LIMIT.read("0.45")
    assert q.DIP_LIMIT.read("0.3") == pytest.approx(0.3)
    assert q.DIP_LIMIT.read("3") == pytest.approx(0.03)
