"""How the machine is fixed: frame and shaft by their dimensions, feet, flange and face, the way its shaft points."""

from __future__ import annotations

import re
from typing import Final

from vinegate.core.codes import decode
from vinegate.core.plate.frame_gate import plain
from vinegate.core.replacement.fits import Fits, Row, Said
from vinegate.core.replacement.frames import differences, face_of, frame_of, short_shaft, special, weaker_shaft
from vinegate.core.replacement.pair import Pair

_WEAK: Final = 0.95
_DIMENSIONS: Final = "NEMA MG 1:2021 4.4.1; IEC 60072-1:2022"
_MOUNTS: Final = "NEMA MG 1:2021 4.3; IEC 60034-7:2020"
_BOX: Final = frozenset({"F1", "F2", "F3"})
"""Feet on the floor, the box at either side or on top."""
_FIXED: Final = {
    "B3": ("feet", "level"), "B6": ("feet", "wall"), "B7": ("feet", "wall"), "B8": ("feet", "ceiling"),
    "B5": ("flange", "level"), "B14": ("face", "level"), "B35": ("feet flange", "level"), "B34": ("feet face", "level"),
    "V1": ("flange", "down"), "V3": ("flange", "up"), "V18": ("face", "down"), "V5": ("feet", "down"),
    "V6": ("feet", "up"), "V19": ("face", "up"), "V15": ("feet flange", "down"), "V36": ("feet flange", "up"),
}  # fmt: skip
"""By what, and how the shaft lies; IEC 60034-7."""


def said_of(pair: Pair, key: str, name: str, attribute: str) -> Said:
    """What both plates say of one field."""
    old, new = (getattr(machine.plate, attribute) or "" for machine in (pair.old, pair.new))
    return Said(key, name, old, new)


def frame(pair: Pair) -> Row:
    """By dimensions, inches and millimetres alike."""
    row = said_of(pair, "frame", "Frame and shaft", "frame")
    if not row.old or not row.new:
        return row.lacking("frame")
    if plain(row.old) == plain(row.new) and not special(row.new):
        return row.put(fits=Fits.SAME, text="Feet, height and shaft agree.", source=_DIMENSIONS)
    if pair.facts.coupled == "belt" and short_shaft(row.new):
        return row.put(fits=Fits.NOT, text="Its short shaft is for direct connection: belts bend it.",
                       source="NEMA MG 1:2021 4.2", task="The same frame with the long shaft.")  # fmt: skip
    old, new = frame_of(row.old), frame_of(row.new)
    if old is None or new is None:
        own = special(row.old) or special(row.new)
        why = (
            "by its maker's drawing: its letters say that they are its own" if own else "the frame is not in the table"
        )
        return row.put(fits=Fits.UNKNOWN, text="", needs=(f"its dimensions: {why}",))
    lost = _face_lost(pair, row)
    if lost is not None:
        return lost
    made = differences(old, new, us=pair.rules.practice.us_units)
    gained = face_of(row.new) != face_of(row.old) and face_of(row.new) is not None
    if gained:
        made.append("see that it has its feet, and room for its face")
    if not made:
        return row.put(fits=Fits.SAME, text="Feet, height and shaft agree.", source=_DIMENSIONS)
    strength = weaker_shaft(old, new)
    weak = f" Its shaft bears {100 * strength:.0f} % of the old one's torque: by its maker." if strength < _WEAK else ""
    task = "; ".join(made)
    return row.put(fits=Fits.WITH, text=f"Not the same.{weak}", source=_DIMENSIONS,
                   task=f"{task[:1].upper()}{task[1:]}. Align it anew.")  # fmt: skip


def _face_lost(pair: Pair, row: Said) -> Row | None:
    """A face or flange that the new one has not: it matters where the old one is fixed by it."""
    face = face_of(row.old)
    if face is None or face == face_of(row.new) or pair.facts.coupled in ("direct", "belt"):
        return None
    if pair.facts.coupled is None:
        return row.put(fits=Fits.UNKNOWN, text="", needs=(f"whether the old one is fixed by its {face}",))
    return row.put(fits=Fits.NOT, text=f"It has no {face} such as the old one is fixed by.", source=_DIMENSIONS,
                   task=f"A motor with that {face}.")  # fmt: skip


def mounting(pair: Pair) -> Row | None:
    """A NEMA plate says it by its frame's letters; an IEC one by its IM code."""
    row = said_of(pair, "mounting", "Mounting", "mounting")
    if not row.old and not row.new:
        return None if pair.rules.practice.us_units else row.lacking("mounting")
    if not row.old or not row.new:
        return row.lacking("mounting")
    old, new = _code(row.old), _code(row.new)
    if old == new:
        return row.put(fits=Fits.SAME, text="The same.")
    if {old, new} <= _BOX:
        return row.put(fits=Fits.WITH, text="Its box is on another side.", source=_MOUNTS,
                       task="Box turned, or the run brought to the other side.")  # fmt: skip
    if old not in _FIXED or new not in _FIXED:
        return row.put(fits=Fits.UNKNOWN, text="", needs=("whether it is fixed as the old one is",))
    return _fixed(row, _FIXED[old], _FIXED[new])


def _fixed(row: Said, old: tuple[str, str], new: tuple[str, str]) -> Row:
    less = set(old[0].split()) - set(new[0].split())
    if less:
        return row.put(fits=Fits.NOT, text=f"It has no {' and '.join(sorted(less))}.", source=_MOUNTS,
                       task="An adapter by its maker.")  # fmt: skip
    if old[1] == new[1]:
        return row.put(fits=Fits.WITH, text="It has what the old one is fixed by, and more.", source=_MOUNTS,
                       task="What is not used kept clear and closed.")  # fmt: skip
    if {old[1], new[1]} <= {"level", "wall", "ceiling"}:
        return row.put(fits=Fits.UNKNOWN, text="", needs=("whether its maker allows that position of its feet",))
    return row.put(fits=Fits.NOT, text="Its shaft is made to point another way: its bearings and seals with it.",
                   source=_MOUNTS, task="A motor for that position.")  # fmt: skip


def _code(text: str) -> str:
    """IM B3, IMB3 and IM 1001 are one: the code of the table; what it does not list as it is written."""
    found = decode("mounting", text)
    return found[0].part if found else re.sub(r"[\s-]", "", text.upper())
