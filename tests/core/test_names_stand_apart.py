"""Names on drawings stand apart and within them; the limit of a start keeps clear of the curves that it judges."""

import itertools

import pytest

from tests.conftest import planner, stops
from vinegate.drawing.plot import WIDTH, Axes, Line, drawn
from vinegate.drawing.scene import Path, Text
from vinegate.drawing.start_strip import place_handle, start_strip
from vinegate.drawing.stops_strip import stops_strip

PUMP, PRESS = planner("harrowmere-lock.json", "P-11"), planner("skerry-sound.json", "H-1")
FAN = planner("skerry-sound.json", "F-3")
WAYS = ["full-voltage", "soft-starter", "soft-starter-ramp", "autotransformer", "drive", "reactor"]
SEEN = [(plan, way) for plan in (PUMP, PRESS, FAN) for way in WAYS] + [(PUMP, "wye-delta"), (PRESS, "wye-delta")]


def strip_of(plan, facts):
    found = plan(facts).comparison
    text = f"4 % dip at Slip board is reached at {found.limit_a:.0f} A"
    return start_strip(found, limit_text=text, handle=place_handle(found)).shapes


def box(text):
    wide, (x, y) = 5.7 * len(text.text), text.at
    left = {"start": x, "middle": x - wide / 2, "end": x - wide}[text.anchor]
    return left, y - 9, left + wide, y + 2


def stand_apart(names):
    return all(
        one[0] >= other[2] or other[0] >= one[2] or one[1] >= other[3] or other[1] >= one[3]
        for one, other in itertools.combinations(map(box, names), 2)
    )


def inside(box, point):
    return box[0] < point[0] < box[2] and box[1] < point[1] < box[3]


def along(points):
    """A curve by places that lie no further apart than a unit of the drawing."""
    for (x, y), (to_x, to_y) in itertools.pairwise(points):
        count = int(max(abs(to_x - x), abs(to_y - y))) + 1
        yield from ((x + (to_x - x) * at / count, y + (to_y - y) * at / count) for at in range(count + 1))


@pytest.mark.parametrize("dip", ["2 %", "4 %", "10 %"])
@pytest.mark.parametrize(("plan", "way"), SEEN)
def test_no_name_stands_on_another_nor_the_limits_on_a_curve(plan, way, dip):
    shapes = strip_of(plan, {"start.method": way, "limits.dip": dip})
    names = [one for one in shapes if isinstance(one, Text) and one.role != "tick"]
    assert stand_apart(names)
    limit = [box(one) for one in names if one.role == "limit-name"]
    (volts,) = [box(one) for one in names if one.role == "name-volts"]
    line = [place for one in shapes if isinstance(one, Path) and one.role == "limit" for place in along(one.points)]
    assert not any(inside(volts, place) for place in line)
    judged = [one for one in shapes if isinstance(one, Path) and one.role in ("speed", "volts", "used", "reached")]
    for curve in judged:
        assert not any(inside(area, place) for area in limit for place in along(curve.points)), curve.role


@pytest.mark.parametrize(("file", "tag"), [("harrowmere-lock.json", "D-61"), ("skerry-sound.json", "P-4")])
def test_ways_to_stop_that_slow_alike_have_names_that_do_not(file, tag):
    names = [one for one in stops_strip(stops(file, tag)().stopping).shapes if "curve-name" in one.role]
    assert len(names) > 2
    assert stand_apart(names)


AXES = Axes(most_x=100, most_y=100, x_name="", y_name="")
SPEEDS = list(range(0, 101, 5))


def line(name, height, named, slope=0.0):
    return Line(role="curve", name=name, xs=SPEEDS, ys=[height + slope * x for x in SPEEDS], named=named)


@pytest.mark.parametrize("gap", [0, 1, 3, 6])
@pytest.mark.parametrize("named", [0.05, 0.4, 0.6, 0.97])
def test_lines_that_fall_together_have_names_that_do_not(named, gap):
    lines = [line("borne for ever", 40 + gap * at, named, slope=0.1) for at in range(3)]
    names = [one for one in drawn(AXES, lines) if isinstance(one, Text)]
    assert len(names) == 3
    assert stand_apart(names)
    assert all(box(one)[0] >= 0 and box(one)[2] <= WIDTH for one in names)


def test_a_name_stands_where_no_other_line_runs():
    """Half-way the steep line crosses it, where the name was meant."""
    flat, steep = line("borne for ever", 50, 0.5), line("", 0, 0.5, slope=1.0)
    shapes = drawn(AXES, [flat, steep])
    name, crossing = box(shapes[-1]), shapes[1]
    assert not any(inside(name, place) for place in along(crossing.points))
    assert box(drawn(AXES, [flat])[-1])[0] != name[0]
