"""Recorders' files: what is written is read back alike, what is malformed is named, what is huge is refused at once."""

import random
import tracemalloc

import numpy as np
import pytest

from tests.core.recordings import start
from vinegate.core.capture.files import packed, read_files, unpacked
from vinegate.core.capture.recording import CaptureError, Channel, Recording
from vinegate.core.capture.writing import write_csv, write_pair, write_single

KINDS = [("1991", "ASCII"), ("1991", "BINARY"), ("1999", "ASCII"), ("1999", "BINARY"),
         ("2013", "ASCII"), ("2013", "BINARY"), ("2013", "BINARY32"), ("2013", "FLOAT32")]  # fmt: skip


def holed(found):
    """With a hole in its first channel and two status channels, seventeen in all so that a second word is needed."""
    values = found.channels[0].values.copy()
    values[7] = np.nan
    first = Channel(name="U12", phase="", unit="V", values=values)
    digital = tuple(
        Channel(name=f"D{k}", phase="", unit="", values=(np.arange(values.size) // (k + 1) % 2).astype(float))
        for k in range(17)
    )
    return Recording(
        station="HAND",
        edition="",
        time_s=found.time_s,
        channels=(first, *found.channels[1:]),
        digital=digital,
        hertz=60.0,
    )


@pytest.mark.parametrize(("edition", "kind"), KINDS)
def test_comtrade_is_read_back_as_it_was_written(edition, kind):
    found = holed(start(seconds=0.6))
    cfg, dat = write_pair(found, edition=edition, kind=kind)
    back = read_files({"a.CFG": cfg, "a.DAT": dat})
    assert np.allclose(back.time_s, found.time_s, atol=1e-9)
    for was, now in zip(found.channels, back.channels, strict=True):
        most = float(np.nanmax(np.abs(was.values)))
        assert (now.name, now.unit) == (was.name, was.unit)
        known = np.isfinite(was.values) & np.isfinite(now.values)
        assert np.max(np.abs(now.values[known] - was.values[known])) <= most * (2e-4 if kind != "FLOAT32" else 1e-6)
    assert np.isnan(back.channels[0].values[7])
    for was, now in zip(found.digital, back.digital, strict=True):
        assert np.array_equal(was.values, now.values)


@pytest.mark.parametrize("kind", ["ASCII", "BINARY", "BINARY32", "FLOAT32"])
def test_the_single_file_holds_both(kind):
    found = start(seconds=0.5)
    back = read_files({"x.cff": write_single(found, kind=kind)})
    assert np.allclose(back.channels[3].values, found.channels[3].values, atol=0.2)


@pytest.mark.parametrize("semicolon", [False, True])
def test_a_table_is_read_back_whatever_its_marks(semicolon):
    found = start(seconds=0.5)
    back = read_files({"x.csv": write_csv(found, semicolon=semicolon).encode()})
    assert [(one.name, one.unit) for one in back.channels] == [(one.name, one.unit) for one in found.channels]
    assert np.allclose(back.channels[4].values, found.channels[4].values, rtol=1e-6, atol=1e-6)


@pytest.mark.parametrize(
    ("text", "unit", "value", "seconds"),
    [
        ("time_ms,I1_A\n0,500\n10,600\n20,700\n30,800\n", "A", 600.0, 0.01),
        ("t_s,U12_kV\n0,0.46\n0.1,0.45\n0.2,0.44\n", "V", 450.0, 0.1),
        ("Time ms;I1 (A rms)\n0;500\n10;600\n20;700\n", "A", 600.0, 0.01),
        ("time [ms],I1 [kA]\n0,0.5\n10,0.6\n20,0.7\n30,0.8\n", "A", 600.0, 0.01),
        ("Zeit;IL1 [A]\n0,00;500\n0,01;600\n0,02;1,5\n0,03;2\n", "A", 600.0, 0.01),
        ("t\tU12\ns\tV\n0\t230.5\n1\t231\n2\t229\n3\t228\n", "V", 231.0, 1.0),
        ("when,I1\n2026-11-26T08:00:00.0,500\n2026-11-26T08:00:00.5,600\n2026-11-26T08:00:01.0,1\n", "A", 600.0, 0.5),
        ("\ufefft;I1\n08:00:00,000;500\n08:00:00,020;600\n08:00:00,040;7\n", "A", 600.0, 0.02),
    ],
)
def test_tables_in_usual_dress(text, unit, value, seconds):
    """Milliseconds, decimal commas, units in a row of their own, dates and clocks, a mark of byte order."""
    back = read_files({"x.csv": text.encode()})
    assert back.channels[0].unit == unit
    assert back.channels[0].values[1] == pytest.approx(value)
    assert back.time_s[1] == pytest.approx(seconds)


def test_blank_cells_are_holes():
    back = read_files({"x.csv": b"t,I1\n0,1\n1,2\n2,\n3,4\n"})
    assert np.isnan(back.channels[0].values[2])


@pytest.mark.parametrize(
    ("change", "says"),
    [
        (lambda c, d: (c.replace(b"6,6A,0D", b"7,6A,0D"), d), "line 2"),
        (lambda c, d: (c.replace(b"1,U12,", b"1,U12,a,b,"), d), "line 3"),
        (lambda c, d: (c.replace(b"1,U12,", b"4,U12,"), d), "where 1 belongs"),
        (lambda c, d: (c.replace(b"2,U23,", b"2,U12,"), d), "two channels"),
        (lambda c, d: (c, d[:-3]), "bytes where"),
        (lambda c, d: (c, d + d[:20]), "bytes where"),
        (lambda c, d: (c.replace(b",2013", b",2044"), d), "line 1"),
        (lambda c, d: (c.replace(b"BINARY", b"FLOAT64"), d), "does not have"),
        (lambda c, d: (c.replace(b"4000,2000", b"4000,200000000"), d), "samples"),
        (lambda c, d: (c.replace(b"4000,2000", b"nan,2000"), d), "rate is nan"),
        (lambda c, d: (c.replace(b"4000,2000", b"-4000,2000"), d), "rates rise"),
        (lambda c, d: (c.replace(b"4000,2000", b"0,2000"), d), "rates rise"),
        (lambda c, d: (c.replace(b"1\r\n4000,2000", b"2\r\n4000,2000\r\n4000,1000"), d), "rates rise"),
    ],
)
def test_what_is_malformed_is_named(change, says):
    cfg, dat = write_pair(start(seconds=0.5), kind="BINARY")
    with pytest.raises(CaptureError, match=says):
        read_files(dict(zip(("a.cfg", "a.dat"), change(cfg, dat), strict=True)))


def test_a_field_that_is_no_number_is_named_by_line_and_column():
    with pytest.raises(CaptureError, match="line 4, column 3"):
        read_files({"x.csv": b"t,I1\n0,1\n1,2\n2,oops\n"})


def test_what_a_configuration_claims_is_refused_before_it_is_allocated():
    """Two kilobytes that claim two hundred million samples take no memory."""
    cfg, dat = write_pair(start(seconds=0.5), kind="BINARY")
    tracemalloc.start()
    with pytest.raises(CaptureError, match="at most"):
        read_files({"a.cfg": cfg.replace(b"4000,2000", b"4000,200000000"), "a.dat": dat})
    assert tracemalloc.get_traced_memory()[1] < 20_000_000
    tracemalloc.stop()


@pytest.mark.slow
def test_hostile_files_are_refused_or_read_and_nothing_else():
    """Two thousand mutations of four good files: read, or a message; never another error."""
    small = start(seconds=0.1, rate=2000.0)
    good = [dict(zip(("a.cfg", "a.dat"), write_pair(small, edition=edition, kind=kind), strict=True))
            for edition, kind in (("1991", "ASCII"), ("2013", "FLOAT32"))]  # fmt: skip
    good += [{"a.cff": write_single(small)}, {"a.csv": write_csv(small, semicolon=True).encode()}]
    chance, refused = random.Random(17), 0
    for _ in range(2000):
        files = dict(chance.choice(good))
        name = chance.choice(sorted(files))
        body = bytearray(files[name])
        for _ in range(chance.randint(1, 4)):
            at = chance.randrange(len(body))
            what = chance.randrange(4)
            if what == 0:
                body[at] = chance.randrange(256)
            elif what == 1:
                del body[at : at + chance.randint(1, 40)]
            elif what == 2:
                body[at:at] = chance.choice([b",", b"\n", b"9" * 12, b"-1", b"nan", b"\0\0", b";", b"1e308"])
            else:
                body[at : at + 1] = body[at : at + 30]
            body = body or bytearray(b"\n")
        try:
            read_files({**files, name: bytes(body)})
        except CaptureError:
            refused += 1
    assert refused > 500


def test_what_was_brought_in_is_kept_whole():
    files = {"a.cfg": b"one\r\n", "a.dat": bytes(range(256))}
    assert unpacked(packed(files)) == files


@pytest.mark.parametrize(("end", "times"), [(b",1,1,P", 1), (b",100,5,S", 20), (b",100,5,P", 1)])
def test_values_of_a_secondary_are_brought_to_the_primary(end, times):
    """Thirteen fields and no more, as the editions of 1999 and 2013 have them: a transformer of 100 to 5."""
    cfg, dat = write_pair(start(seconds=0.6))
    lines = cfg.replace(b",1,1,P", end, 4).split(b"\r\n")
    assert lines[5].count(b",") == 12
    found = read_files({"x.cfg": b"\r\n".join(lines), "x.dat": dat})
    plain = read_files({"x.cfg": cfg, "x.dat": dat})
    first = [np.max(np.abs(one.channels[3].values)) for one in (found, plain)]
    assert first[0] == pytest.approx(times * first[1])
    assert found.channels[4].values == pytest.approx(plain.channels[4].values)


@pytest.mark.parametrize(
    ("edition", "moments"),
    [("1991", ["11/29/26,08:59:59.000000", "11/29/26,09:00:00.000000"]),
     ("2013", ["29/11/2026,08:59:59.000000", "29/11/2026,09:00:00.000000"])],
)  # fmt: skip
def test_a_file_says_when_it_begins_and_when_it_was_triggered(edition, moments):
    found = start(seconds=0.6)
    found.trigger_s = found.time_s[0] + 1.0
    cfg, dat = write_pair(found, edition=edition, at="2026-11-29 08:59:59")
    lines = cfg.decode().split("\r\n")
    assert [line for line in lines if line.count("/") == 2] == moments
    assert read_files({"x.cfg": cfg, "x.dat": dat}).time_s[0] == pytest.approx(0.0)
