"""COMTRADE data beside their configuration: all four kinds, checked against what the configuration claims first."""

from __future__ import annotations

import re
from typing import Final

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.capture.configuration import Configuration, read_configuration
from vinegate.core.capture.recording import CaptureError, Channel, Recording, base_unit

_PART: Final = ".DAT"
_SECTION: Final = re.compile(rb"^---\s*file type:\s*([A-Z]+)(?:\s+([A-Z0-9]+))?(?:\s*:\s*(\d+))?\s*---\s*?\r?\n", re.M)


def read_pair(configuration: bytes, data: bytes) -> Recording:
    """A .CFG and its .DAT. Raises CaptureError."""
    cfg = read_configuration(_text(configuration, ".CFG"))
    return _recording(cfg, data)


def read_single(body: bytes) -> Recording:
    """A .CFF of 2013, its sections in one file. Raises CaptureError."""
    marks = list(_SECTION.finditer(body))
    parts = {}
    for place, mark in enumerate(marks):
        ends = marks[place + 1].start() if place + 1 < len(marks) else len(body)
        if mark.group(1) == b"DAT":  # what follows may look like anything: its length counts where it is said
            length = int(mark.group(3)) if mark.group(3) else len(body) - mark.end()
            parts[b"DAT"] = body[mark.end() : mark.end() + min(length, len(body))]
            break
        parts[mark.group(1)] = body[mark.end() : ends]
    if b"CFG" not in parts or b"DAT" not in parts:
        raise CaptureError("a section for configuration or data is missing.", part=".CFF")
    return read_pair(parts[b"CFG"], parts[b"DAT"])


def _text(body: bytes, part: str) -> str:
    if len(body) > 2_000_000:
        raise CaptureError("larger than a configuration is.", part=part)
    try:
        return body.decode("utf-8-sig")
    except UnicodeDecodeError:
        return body.decode("latin-1")


def _recording(cfg: Configuration, data: bytes) -> Recording:
    if cfg.samples < 1:
        raise CaptureError("no sample is claimed.", part=".CFG")
    stamps, raw, status = _ascii(cfg, data) if cfg.kind == "ASCII" else _binary(cfg, data)
    time = _time(cfg, stamps)
    channels = []
    for place, one in enumerate(cfg.analogs):
        unit, times = base_unit(one.unit)
        values = (one.a * raw[:, place] + one.b) * (one.times * times)
        channels.append(Channel(name=one.name, phase=one.phase, unit=unit, values=values, skew_s=one.skew_us * 1e-6,
                                ask_ratio=one.ask_ratio))  # fmt: skip
    digital = tuple(Channel(name=name, phase="", unit="", values=status[:, place])
                    for place, name in enumerate(cfg.digitals))  # fmt: skip
    return Recording(station=cfg.station, edition=f"COMTRADE {cfg.edition}, {cfg.kind}", time_s=time,
                     channels=tuple(channels), digital=digital, hertz=cfg.hertz, started=cfg.started)  # fmt: skip


def _time(cfg: Configuration, stamps: Array) -> Array:
    """By the rates where there are any, else by the stamps; never backwards."""
    if cfg.rates[0][0] > 0:
        found, time, last = np.empty(cfg.samples), 0.0, 0
        for rate, ends in cfg.rates:
            count = ends - last
            found[last:ends] = time + np.arange(count) / rate
            time, last = time + count / rate, ends
        return found
    found = (stamps - stamps[0]) * cfg.stamp_s
    if not np.all(np.isfinite(found)) or np.any(np.diff(found) <= 0):
        raise CaptureError("time stamps are missing or run backwards, and no rate is given.", part=_PART)
    return np.asarray(found)


def _binary(cfg: Configuration, data: bytes) -> tuple[Array, Array, Array]:
    analog, digital = len(cfg.analogs), len(cfg.digitals)
    kind = {"BINARY": "<i2", "BINARY32": "<i4", "FLOAT32": "<f4"}[cfg.kind]
    words = -(-digital // 16)
    row = np.dtype([("n", "<u4"), ("t", "<u4"), ("a", kind, (analog,)), ("d", "<u2", (words,))])
    if len(data) != cfg.samples * row.itemsize:
        raise CaptureError(
            f"{len(data):,} bytes where {cfg.samples:,} samples of {row.itemsize} bytes belong.", part=_PART
        )
    rows = np.frombuffer(data, dtype=row)
    _numbered(rows["n"].astype(float))
    raw = rows["a"].astype(float)
    if kind == "<f4":
        raw[~np.isfinite(raw) | (np.abs(raw) > 3.4e38)] = np.nan
    elif kind == "<i4":
        raw[rows["a"] == -(2**31)] = np.nan
    else:
        raw[rows["a"] == (-1 if cfg.edition == "1991" else -32768)] = np.nan
    bits = (rows["d"][:, :, None] >> np.arange(16, dtype=np.uint16)) & 1
    status = bits.reshape(cfg.samples, words * 16)[:, :digital].astype(float)
    stamps = np.where(rows["t"] == 0xFFFFFFFF, np.nan, rows["t"].astype(float))
    return stamps, raw, status


def _ascii(cfg: Configuration, data: bytes) -> tuple[Array, Array, Array]:
    analog, width = len(cfg.analogs), 2 + len(cfg.analogs) + len(cfg.digitals)
    lines = [line for line in data.decode("latin-1").replace("\x1a", "").splitlines() if line.strip()]
    if len(lines) != cfg.samples:
        raise CaptureError(f"{len(lines):,} lines where {cfg.samples:,} samples belong.", part=_PART)
    for number, line in enumerate(lines, start=1):
        if line.count(",") != width - 1:
            raise CaptureError(f"{line.count(',') + 1} fields where {width} belong.", part=_PART, line=number)
    try:
        table = np.loadtxt(lines, delimiter=",", ndmin=2, comments=None)
    except ValueError:
        table = np.array([_row(line, number) for number, line in enumerate(lines, start=1)])
    _numbered(table[:, 0])
    raw = table[:, 2 : 2 + analog]
    raw[raw == 99999] = np.nan
    return table[:, 1], raw, table[:, 2 + analog :]


def _row(line: str, number: int) -> list[float]:
    """A line with holes in it; a field that is no number is named."""
    found = []
    for place, field in enumerate(line.split(",")):
        try:
            found.append(float(field) if field.strip() else np.nan)
        except ValueError:
            column = 1 + sum(len(one) + 1 for one in line.split(",")[:place])
            raise CaptureError(
                f"“{field.strip()[:20]}” is no number.", part=_PART, line=number, column=column
            ) from None
    return found


def _numbered(numbers: Array) -> None:
    """Samples are numbered one after another."""
    wrong = np.flatnonzero(np.diff(numbers) != 1)
    if wrong.size or not np.isfinite(numbers[0]):
        at = int(wrong[0]) + 2 if wrong.size else 1
        raise CaptureError("samples are not numbered one after another.", part=_PART, line=at)
