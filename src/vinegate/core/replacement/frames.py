"""Frames by their dimensions: where the holes are, how high the shaft stands, how thick and long it is."""

from __future__ import annotations

import re
from typing import Final

from vinegate.core.plate.frame_gate import plain
from vinegate.core.records import dataclass
from vinegate.core.tables import load

_HOLES: Final = 2.0  # mm: holes are so much wider than their bolts
_MM: Final = {"in": 25.4, "mm": 1.0}


@dataclass(frozen=True, slots=True, kw_only=True)
class Frame:
    """Millimetres: shaft height, holes across and along, shaft diameter and length."""

    name: str
    height: float
    across: float
    along: float
    shaft: float
    length: float


_FACES: Final = {"C": "face", "D": "flange"}


def _row_of(text: str) -> tuple[dict[str, str], str] | None:
    """The longest frame of the table that it begins with, and the letters behind it."""
    code = plain(text)
    for row in sorted(load("frame_dimension").rows, key=lambda one: -len(one["frame"])):
        match = re.match(rf"{row['frame']}(?!\d)", code)
        if match:
            return row, code[match.end() :]
    return None


def face_of(text: str) -> str | None:
    """The face or flange that a NEMA frame's letters say; None for none, and for IEC, whose IM code says it.

    >>> face_of("184TC"), face_of("256TD"), face_of("184T")
    ('face', 'flange', None)
    """
    found = _row_of(text)
    if found is None or found[0]["unit"] != "in":
        return None
    return _FACES.get(found[1][:1])


def short_shaft(text: str) -> bool:
    """Whether its letters say that its shaft is the short one, for direct connection alone: MG 1 4.2, S.

    >>> short_shaft("405TS"), short_shaft("215 TS"), short_shaft("405T"), short_shaft("132S"), short_shaft("280S")
    (True, True, False, False, False)
    """
    return re.match(r"\d+[TU]S", plain(text)) is not None


def special(text: str) -> bool:
    """Whether its letters say that shaft or mounting are not the standard's: MG 1 4.2, Y and Z.

    >>> special("184TZ"), special("56HZ"), special("184TC")
    (True, False, False)
    """
    found = _row_of(text)
    return bool(re.search("[YZ]", found[1] if found else plain(text)))


def frame_of(text: str | None) -> Frame | None:
    """The frame of a designation; a face or flange changes none of its dimensions. None for others, and where letters
    behind it stand for another shaft or other feet.

    >>> frame_of("184TC").height, frame_of("132 S").shaft, frame_of("999X"), frame_of("184TZ"), frame_of("215TS")
    (114.3, 38.0, None, None, None)
    """
    found = _row_of(text) if text else None
    if found is None:
        return None
    row, behind = found
    if row["unit"] == "in" and behind not in ("", *_FACES):
        return None
    times = _MM[row["unit"]]
    values = {key: round(times * float(row[key]), 4) for key in ("height", "across", "along", "shaft", "length")}
    return Frame(name=row["frame"], **values)


def differences(old: Frame, new: Frame, *, us: bool = False) -> list[str]:
    """What must be made to fit, in words; empty where every dimension agrees within half a millimetre."""

    def said(*lengths: float) -> str:
        unit, times, places = ("in", 25.4, 3) if us else ("mm", 1.0, 2)
        return f"{' × '.join(f'{round(one / times, places):g}' for one in lengths)} {unit}"

    found = []
    lift = old.height - new.height
    if lift > 0.5:
        found.append(f"shim it up {said(lift)}")
    elif lift < -0.5:
        found.append(f"lower its base, or raise the driven machine, {said(-lift)}")
    if max(abs(old.across - new.across), abs(old.along - new.along)) > _HOLES:
        found.append(f"base drilled anew: {said(new.across, new.along)} for {said(old.across, old.along)}")
    if new.shaft - old.shaft > 0.5:
        found.append(f"coupling or sheave rebored to {said(new.shaft)} from {said(old.shaft)}, its key with it")
    if old.shaft - new.shaft > 0.5:
        found.append(f"bushing from {said(old.shaft)} to {said(new.shaft)}, or another hub")
    if abs(old.length - new.length) > 2:
        word = "longer" if new.length > old.length else "shorter"
        found.append(f"shaft {said(abs(old.length - new.length))} {word}: place the hub anew")
    return found


def weaker_shaft(old: Frame, new: Frame) -> float:
    """Torsional strength of the new shaft over the old one's, by the cube of the diameters."""
    return (new.shaft / old.shaft) ** 3
