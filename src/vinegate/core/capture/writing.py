"""A recording written out: COMTRADE of every edition and kind, and CSV. What reads it back gives the same."""

from __future__ import annotations

import math
from typing import Final

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.capture.configuration import EDITIONS, KINDS
from vinegate.core.capture.recording import Recording

_LARGEST: Final = {"ASCII": 90000, "BINARY": 32000, "BINARY32": 2_000_000_000}
_NO_MOMENT: Final = "2000-01-01 00:00:00"
"""The files must have a date; of a course that was worked nobody can tell one."""


def write_pair(
    found: Recording, *, edition: str = "2013", kind: str = "BINARY", at: str = _NO_MOMENT
) -> tuple[bytes, bytes]:
    """A .CFG and a .DAT, begun `at` so many years, months, days, hours, minutes and seconds.

    Raises ValueError for an edition without that kind.
    """
    if edition not in EDITIONS or kind not in KINDS or (kind in KINDS[2:] and edition != "2013"):
        raise ValueError(f"edition {edition} has no {kind}")
    factors = [_factor(one.values, kind) for one in found.channels]
    lines = [f"{_plain(found.station)},VINE GATE" + ("" if edition == "1991" else f",{edition}")]
    analog, digital = len(found.channels), len(found.digital)
    lines.append(f"{analog + digital},{analog}A,{digital}D")
    for number, (one, a) in enumerate(zip(found.channels, factors, strict=True), start=1):
        most = _LARGEST.get(kind, 99999)
        tail = "" if edition == "1991" else ",1,1,P"
        lines.append(f"{number},{_plain(one.name)},{_plain(one.phase)},,{_plain(one.unit)},{a!r},0,"
                     f"{one.skew_s * 1e6:g},{-most},{most}{tail}")  # fmt: skip
    for number, one in enumerate(found.digital, start=1):
        middle = "" if edition == "1991" else ",,"
        lines.append(f"{number},{_plain(one.name)}{middle},0")
    rate = found.rate_hz
    trigger = found.trigger_s - float(found.time_s[0]) if found.trigger_s is not None else 0.0
    moments = (_moment(at, 0.0, edition), _moment(at, trigger, edition))
    lines += [f"{found.hertz or 0:g}", "1", f"{rate:.10g},{found.time_s.size}", *moments, kind]
    if edition != "1991":
        lines.append("1")
    if edition == "2013":
        lines += ["0,0", "0,0"]
    data = _data(found, factors, edition, kind)
    return ("\r\n".join(lines) + "\r\n").encode(), data


def _moment(at: str, after_s: float, edition: str) -> str:
    """Date and time as the edition has them, so many seconds later.

    >>> _moment("2026-11-29 23:59:59", 1.5, "1999"), _moment("2026-11-29 08:59:59", 0, "1991")
    ('30/11/2026,00:00:00.500000', '11/29/26,08:59:59.000000')
    """
    then = np.datetime64(at, "us") + np.timedelta64(round(1e6 * after_s), "us")
    date, clock = str(then).split("T")
    year, month, day = date.split("-")
    return f"{month}/{day}/{year[2:]},{clock}" if edition == "1991" else f"{day}/{month}/{year},{clock}"


def write_single(found: Recording, *, kind: str = "BINARY", at: str = _NO_MOMENT) -> bytes:
    """A .CFF of 2013."""
    cfg, dat = write_pair(found, edition="2013", kind=kind, at=at)
    said = b"ASCII" if kind == "ASCII" else f"{kind}: {len(dat)}".encode()
    return b"--- file type: CFG ---\r\n" + cfg + b"--- file type: DAT " + said + b" ---\r\n" + dat


def write_csv(found: Recording, *, semicolon: bool = False) -> str:
    """Time in seconds, then each channel with its unit; decimal commas where it is parted by semicolons."""
    head = ["t [s]", *(f"{one.name} [{one.unit}]" for one in found.channels)]
    columns = [found.time_s, *(one.values for one in found.channels)]
    mark = ";" if semicolon else ","
    rows = [mark.join(head)]
    for row in np.column_stack(columns).tolist():
        text = mark.join("" if math.isnan(value) else f"{value:.9g}" for value in row)
        rows.append(text.replace(".", ",") if semicolon else text)
    return "\r\n".join(rows) + "\r\n"


def _plain(text: str) -> str:
    """Without what would part fields or lines."""
    return " ".join(text.replace(",", " ").split())


def _factor(values: Array, kind: str) -> float:
    if kind == "FLOAT32":
        return 1.0
    most = float(np.nanmax(np.abs(values), initial=0.0)) if np.isfinite(values).any() else 0.0
    return most / _LARGEST[kind] if most > 0 else 1.0


def _data(found: Recording, factors: list[float], edition: str, kind: str) -> bytes:
    count = found.time_s.size
    stamps = np.round((found.time_s - found.time_s[0]) * 1e6).astype(np.int64)
    scaled = [one.values / a for one, a in zip(found.channels, factors, strict=True)]
    if kind == "ASCII":
        rows = []
        for place in range(count):
            analog = [99999 if math.isnan(one[place]) else round(float(one[place])) for one in scaled]
            status = (int(one.values[place]) for one in found.digital)
            rows.append(",".join(str(one) for one in (place + 1, stamps[place], *analog, *status)))
        return ("\r\n".join(rows) + "\r\n").encode()
    words = -(-len(found.digital) // 16)
    cell = {"BINARY": "<i2", "BINARY32": "<i4", "FLOAT32": "<f4"}[kind]
    rows_ = np.zeros(count, dtype=[("n", "<u4"), ("t", "<u4"), ("a", cell, (len(scaled),)), ("d", "<u2", (words,))])
    rows_["n"], rows_["t"] = np.arange(1, count + 1), stamps
    for place, values in enumerate(scaled):
        rows_["a"][:, place] = values if kind == "FLOAT32" else _whole(values, edition, kind)
    for place, one in enumerate(found.digital):
        rows_["d"][:, place // 16] |= one.values.astype(np.uint16) << np.uint16(place % 16)
    return rows_.tobytes()


def _whole(values: Array, edition: str, kind: str) -> Array:
    """Rounded; holes by the edition's own number, which no sample is then allowed to be."""
    found = np.round(np.nan_to_num(values))
    if kind == "BINARY32":
        return np.where(np.isnan(values), -(2**31), found)
    if edition == "1991":
        found = np.where(found == -1, -2, found)
        return np.where(np.isnan(values), -1, found)
    return np.where(np.isnan(values), -32768, found)
