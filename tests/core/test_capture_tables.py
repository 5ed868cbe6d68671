"""A recorder's table as its makers write them: clocks and dates, quotes, blanks, heads in words."""

import numpy as np
import pytest

from vinegate.core.capture.files import read_files
from vinegate.core.capture.mapping import guess
from vinegate.core.capture.recording import CaptureError
from vinegate.core.capture.table import read_table

AMPS = (0.0, 480.5, 470.25, 1081.5)
"""Of four samples 50 ms apart."""


def read(text):
    return read_files({"x.csv": text.encode()})


def table(head, row, *, ahead="", behind=""):
    lines = [row(0.05 * at, amps) for at, amps in enumerate(AMPS)]
    return "\n".join(filter(None, [ahead, head, *lines, behind])) + "\n"


def clock(s, mark="."):
    return f"10:15:{58.5 + s:05.2f}".replace(".", mark)


def comma(value):
    return f"{value:.2f}".replace(".", ",")


FORMS = {
    "date and clock apart": table("Date,Time,I1", lambda s, a: f"2026-11-30,{clock(s)},{a}"),
    "day first, decimal comma": table("Datum;Zeit;I1", lambda s, a: f"30.11.2026;{clock(s, ',')};{comma(a)}"),
    "both in one, no head of its own": table(";;I1", lambda s, a: f"30.11.2026;{clock(s, ',')};{comma(a)}"),
    "month first": table("Timestamp,I1", lambda s, a: f"11/30/2026 {clock(s)},{a}"),
    "half a day": table("Timestamp,I1", lambda s, a: f"11/30/2026 {clock(s)} AM,{a}"),
    "a named month": table("Timestamp\tI1", lambda s, a: f"30-Nov-2026 {clock(s)}\t{a}"),
    "with its zone": table("time,I1", lambda s, a: f"2026-11-30T{clock(s)}+01:00,{a}"),
    "milliseconds behind a colon": table("Time;I1", lambda s, a: f"10:15:03:{1000 * s:03.0f};{a}"),
    "minutes": table("Elapsed,I1", lambda s, a: f"15:{3 + s:05.2f},{a}"),
    "a count ahead": table("No.,Elapsed (ms),I1", lambda s, a: f"{s / 0.05:.0f},{1000 * s:.0f},{a}"),
    "milliseconds in letters": table("Time [msec],I1", lambda s, a: f"{1000 * s:.0f},{a}"),
    "milliseconds behind a name": table("Elapsed milliseconds,I1", lambda s, a: f"{1000 * s:.0f},{a}"),
    "a spreadsheet's days": table("Date,I1", lambda s, a: f"{46356.25 + s / 86400:.12f},{a}"),
    "a spreadsheet's date and share of a day": table("Date,Time,I1", lambda s, a: f"46356,{0.25 + s / 86400:.12f},{a}"),
    "since 1970, in ms": table("timestamp,I1", lambda s, a: f"{1764497703000 + 1000 * s:.0f},{a}"),
    "since 1970, in µs": table("time,I1", lambda s, a: f"{1764497703000000 + 1e6 * s:.0f},{a}"),
    "a rate above, and a count": table("No.,I1", lambda s, a: f"{s / 0.05:.0f},{a}", ahead="Sampling rate: 20 Hz"),
    "seconds in its cells": table("Time;I1", lambda s, a: f"{1000 * s:.0f} ms;{a} A"),
    "quoted": table('"Time","I1"', lambda s, a: f'"{s}","{a}"'),
    "quoted, decimal comma": table('"Time","I1"', lambda s, a: f'"{comma(s)}","{comma(a)}"'),
    "quoted thousands": table("Time,I1", lambda s, a: f'{s:.2f},"{a:,.2f}"'),
    "thousands and comma": table(
        "Time;I1", lambda s, a: f"{comma(s)};" + f"{a:,.2f}".translate(str.maketrans(",.", ".,"))
    ),
    "thousands and point": table("Time;I1", lambda s, a: f"{s:.2f};{a:,.2f}"),
    "between blanks": table("  Time (s)    I1 (A)", lambda s, a: f"  {s:8.2f}  {a:8.2f}"),
    "a summary behind": table("Time,I1", lambda s, a: f"{s:.2f},{a}", behind="\nMax,1081\n--- end of data"),
    "a sheet's empty lines": table("Time,I1,", lambda s, a: f"{s:.2f},{a},", ahead="sep=,", behind=",,\n,,"),
    "numbers ahead of its head": table("Time,I1", lambda s, a: f"{s:.2f},{a}", ahead="20,1"),
    "blanks past its fields": table("Time;I1", lambda s, a: f"{s:.2f};{a};" + ";" * (a > 1000)),
    "remarks ahead": table("# time,I1", lambda s, a: f"{s:.2f},{a}", ahead="# logger\n# 20 Hz"),
}


@pytest.mark.parametrize("form", FORMS)
def test_the_same_four_samples_are_read_from_each(form):
    found = read(FORMS[form])
    assert found.time_s == pytest.approx([0.0, 0.05, 0.1, 0.15], abs=2e-3)
    assert [use.role for use in guess(found).values()] == ["i1"]
    assert found.channels[-1].values == pytest.approx(AMPS)


def test_a_clock_goes_over_midnight_and_a_date_over_its_month():
    plain = read("Time,I1\n23:59:59.9,1\n0:00:00.1,2\n0:00:00.3,3\n")
    assert plain.time_s == pytest.approx([0.0, 0.2, 0.4])
    for dates in (("31/01/2026", "01/02/2026"), ("01/31/2026", "02/01/2026"), ("4/1/2026", "5/1/2026")):
        rows = f"{dates[0]} 23:59:59.9,1\n{dates[1]} 0:00:00.1,2\n{dates[1]} 0:00:00.3,3\n"
        assert read(f"Timestamp,I1\n{rows}").time_s == pytest.approx([0.0, 0.2, 0.4])


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("No.,I1\n1,5\n2,6\n3,7\n", "counts its lines"),
        ("Time (furlongs),I1\n1,5\n2,6\n3,7\n", "furlongs"),
        ("Time,I1\n10:00:02,5\n10:00:02,6\n10:00:03,6\n", "line 3: the time stands still"),
        ("Time,I1\n10:00:02.0,5\n10:00:03.0,5\n10:00:01.0,6\n10:00:04.0,6\n", "line 4: the time does not rise"),
        ("I1 (A),U12 (V)\n5,460\n6,461\n", "no column is the time, and no interval"),
        ("logger\n\nNo.,I1\n1,5\n2,6\n3,7\n", "line 3: “No.”"),
        ("Time,I1\n0,5\n1,6\n2,6,7,8\n", "line 4: 4 fields where 2 belong"),
        ("Time,I1\n0,5\n1,6\n\n2,oops\n3,6\n", "line 5, column 3"),
        ("Time,I1\n0,5\n1,6\nMax,6\n2,6\n", "line 4, column 1"),
    ],
)  # fmt: skip
def test_what_cannot_be_told_is_named_and_never_taken_for_seconds(text, says):
    with pytest.raises(CaptureError, match=says):
        read(text)


def roles(*heads):
    rows = [f"{at}," + ",".join("5" for _ in heads) for at in range(3)]
    found = read("\n".join(["Time," + ",".join(heads), *rows]))
    return [use.role for use in guess(found).values()]


LINES = [
    "Irms L{}", "I L{} avg", "L{} Amps", "Phase {} Current", "I{} [Arms]", "Arms Phase {}", "A{} (A)", "A{}", "I_{} [A]",
    "CH{0} I{0} A", "Current {} RMS", "T{} amps", "I{}avg", "I(L{})", "Line {} current", "Courant L{} (A)", "I{} max",
]  # fmt: skip


@pytest.mark.parametrize("head", LINES)
def test_amperes_of_each_line_are_known_by_their_heads(head):
    assert roles(*(head.format(one) for one in "132")) == ["i1", "i3", "i2"]


@pytest.mark.parametrize(
    "heads", ["Voltage {0}{1}", "{0}{1} Voltage (V)", "V{0}{1}", "Volts {0}-{1}", "Phase {0}-{1} volts", "U{0}{1} rms"]
)
@pytest.mark.parametrize("letters", ["ABC", "123", "RST"])
def test_volts_between_lines_are_known_by_their_heads(heads, letters):
    one, two, three = letters
    assert roles(heads.format(one, two), heads.format(two, three), heads.format(three, one)) == ["u12", "u23", "u31"]


@pytest.mark.parametrize(
    ("heads", "found"),
    [
        (("Motor current",), ["i1"]),
        (("Clamp (A)",), ["i1"]),
        (("Voltage (V)", "Current (A)"), ["", "i1"]),  # to neutral or between lines: nobody says
        (("U", "I"), ["", "i1"]),
        (("AN Volts", "BN Volts", "CN Volts"), ["u1", "u2", "u3"]),
        (("Voltage L1-L2 [V]", "U_L23"), ["u12", "u23"]),
        (("UV (V)", "VW (V)", "WU (V)"), ["u12", "u23", "u31"]),
        (("UU (V)", "UV (V)", "UW (V)"), ["u1", "u2", "u3"]),
        (("I1 min (A)", "I1 max (A)", "I1 avg (A)"), ["", "", "i1"]),
        (("IN (A)", "I2 (A)"), ["", "i2"]),
        (("Ground current (A)", "Line current (A)"), ["", "i1"]),
        (("THD I1 (%)", "PF", "kW", "RPM", "I1"), ["", "", "p", "n", "i1"]),
        (("Current (A)", "Current (A)", "Current (A)"), ["i1", "i2", "i3"]),
    ],
)  # fmt: skip
def test_what_is_no_line_is_not_taken_and_a_lone_clamp_is(heads, found):
    assert roles(*heads) == found


def test_a_line_without_end_is_refused():
    with pytest.raises(CaptureError, match="quotes"):
        read('t,I1\n0,1\n1,"' + "2" * 200_000)


def test_a_kiloampere_is_a_thousand():
    assert np.max(read("t,I1 (kA)\n0,0.1\n1,0.2\n").channels[0].values) == pytest.approx(200)


CELLS = {
    "semicolons": "Time;I1;I2 (kA);U12\n08:10:00,0;0,5 A;0,1 A;462,1 V\n08:10:00,1;480,2 A;0,46 kA;0,44 kV",
    "commas": "t,I1,I2 (kA),U12\n0,0.5 A,0.1 A,462.1 V\n0.1,480.2 A,0.46 kA,0.44 kV",
    "tabs": "t\tI1\tI2 (kA)\tU12\n0\t0,5 A\t0,1 A\t462,1 V\n0,1\t480,2 A\t460 A\t440 V",
}


@pytest.mark.parametrize("form", CELLS)
def test_units_beside_each_number_are_its_own(form):
    """0.46 kA and 460 A in one column are the same; a head's unit is not counted twice."""
    found = {one.name: one for one in read_table(CELLS[form].encode()).channels}
    assert [found[name].unit for name in ("I1", "I2", "U12")] == ["A", "A", "V"]
    assert found["I1"].values == pytest.approx([0.5, 480.2])
    assert found["I2"].values == pytest.approx([0.1, 460])
    assert found["U12"].values == pytest.approx([462.1, 440])


@pytest.mark.parametrize(
    ("head", "unit"), [("RMS V min", "V"), ("I1 min", "A"), ("RMS A max", "A"), ("kW avg", "W"), ("Phase A max", "")]
)
def test_the_least_of_a_stretch_is_no_time(head, unit):
    text = f"Record #,Time,{head}\n1,0,1\n2,1,2"
    (only,) = read_table(text.encode()).channels
    assert only.unit == unit


def test_a_last_row_that_breaks_off_leaves_what_it_lacks_open():
    found = read_table(b"Time,I1,Clock\n0,5,10:00:02\n1,6,10:00:03\n2,7\n")
    assert list(found.channels[0].values) == [5, 6, 7]


@pytest.mark.parametrize("gap", ["OL", "---", "", "NaN"])
def test_a_table_may_begin_with_what_its_recorder_could_not_read(gap):
    (only,) = read(f"Time,I1\n0,{gap}\n1,{gap or 'OL'}\n2,6\n3,7\n").channels
    assert np.isnan(only.values[:2]).all()
    assert list(only.values[2:]) == [6, 7]


@pytest.mark.parametrize(
    "above", ["Sample interval,50,ms", "dt = 0.05 s", "Sampling rate (Hz),20", "X increment: 5e-2"]
)
def test_samples_without_a_time_are_as_far_apart_as_is_said_above(above):
    found = read(f"{above}\nI1 (A),U12 (V)\n5,460\n6,461\n7,462\n")
    assert found.time_s == pytest.approx([0.0, 0.05, 0.1])
    assert [(one.name, one.unit) for one in found.channels] == [("I1", "A"), ("U12", "V")]
