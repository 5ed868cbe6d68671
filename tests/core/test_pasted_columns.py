"""Columns that are pasted: commas and points as their writer has them, heads in either order, values as they stand."""

import pytest

from vinegate.core.load.points import read_points
from vinegate.core.machine.maker_curve import read_curve
from vinegate.core.numbers import QuantityError
from vinegate.core.protection.upstream import read_device_curve


@pytest.mark.parametrize(
    "text",
    [
        "1000 100\n2000 10\n5000 0.5",
        "1,000 100\n2,000 10\n5,000 0.5",  # a point elsewhere: a comma parts thousands
        "1,000.0\t100\n2,000.0\t10\n5,000.0\t0.5",
        "1.000;100\n2.000;10\n5.000;0,5",  # a decimal comma elsewhere: a point does
        "1 000; 100\n2 000; 10\n5 000; 0,5",
        "Current (A), Time (s)\n1000,100\n2000,10\n5000,0.5",
        "Time (s), Current (A)\n100, 1000\n10, 2000\n0.5, 5000",
        "t [ms]\tI [kA]\n100000\t1\n10000\t2\n500\t5",
        "5000 0.5\n2000 10\n1000 100",  # from the other end
    ],
)
def test_a_devices_curve_however_it_is_written(text):
    curve = read_device_curve(text)
    assert curve.amperes == pytest.approx((1000, 2000, 5000))
    assert curve.seconds == pytest.approx((100, 10, 0.5))


def test_small_amperes_with_three_decimals_stay_small():
    assert read_device_curve("1,250;100\n2,000;10\n5,500;0,5").amperes == (1.25, 2, 5.5)
    assert read_device_curve("1.250 100\n2.000 10\n5.500 0.5").amperes == (1.25, 2, 5.5)


@pytest.mark.parametrize(
    ("read", "text", "said"),
    [
        (read_device_curve, "1,000;100\n2,000;10\n5,000;1", "Row 1 of the curve: “1,000” may be 1000 or 1.000"),
        (read_device_curve, "A;s\n900;100\n2,000;10\n5,000;1", "Row 3 of the curve: “2,000” may be 2000 or 2.000"),
        (read_device_curve, "900 0,5\n1,250 0.4\n2000 0.3", "Row 2 of the curve: “1,250” may be 1250 or 1.250"),
        (read_device_curve, "Time (s), Power (kW)\n1, 2\n2, 3\n3, 4", "unit “s” of the curve's current is not known"),
        (read_points, "rpm;Nm\n0;10\n1,185;300", "Row 3 of the points: “1,185” may be 1185 or 1.185"),
        (read_curve, "rpm;Nm;A\n0;1,500;560\n300;1300;550\n900;1400;500\n1100;1900;300\n1185;450;92",
         "Row 2 of the curve: “1,500” may be 1500 or 1.500"),
    ],
)  # fmt: skip
def test_what_may_be_a_thousand_times_as_much_is_asked_back(read, text, said):
    with pytest.raises(QuantityError) as told:
        read(text)
    assert said in str(told.value)


@pytest.mark.parametrize("text", ["rpm\tN·m\n0\t50,5\n1.185\t300,0", "rpm, N·m\n0 50.5\n1,185 300", "0 50.5\n1185 300"])
def test_a_loads_points_however_they_are_written(text):
    points = read_points(text if text.startswith("rpm") else f"rpm;N·m\n{text}")
    assert (points.speeds, points.torques) == ((0, 1185), (50.5, 300))


def test_a_makers_curve_with_grouped_thousands():
    rows = "0\t1,500\t560.5\n300\t1,300\t550\n900\t1,400\t500\n1,100\t1,900\t300\n1,185\t450\t92"
    curve = read_curve(f"rpm\tN·m\tA\n{rows}")
    assert curve.speed.values == (0, 300, 900, 1100, 1185)
    assert curve.torque.values == (1500, 1300, 1400, 1900, 450)
