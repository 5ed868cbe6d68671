"""System volts as supplies are named: 480Y/277, 400/230, 120/240, 240/120 high-leg."""

from __future__ import annotations

import re
from typing import Final, NamedTuple

from vinegate.core import quantity as q
from vinegate.core.numbers import QuantityError

_HIGH_LEG: Final = re.compile(
    r"[\s,(]*(?:(?:high|wild|red)[\s-]*leg(?:\s*(?:delta|Δ))?|4[\s-]*w(?:ire)?\s*(?:delta|Δ)|(?:delta|Δ)[\s,]*4[\s-]*w(?:ire)?)\)?\s*$",
    re.I,
)
_PHASES: Final = re.compile(
    r"[\s,/]*(1|3|one|three|single)(?:[\s-]*(?:ph(?:ase)?\.?|Ø|φ)|(?:\s*/?\s*(?:PEN|PE|N))*\s*~)\s*$", re.I
)
_AHEAD: Final = re.compile(
    r"^\s*(?:([13])?(?:\s*/?\s*(?:PEN|PE|N))*\s*(?:~|AC\b|ph(?:ase)?s?\b)|([13])(?:\s*/?\s*(?:PEN|PE|N))+|([13])\s*[x×])\s*",
    re.I,
)
"""`3/N/PE ~`, `3 ×` and the like: IEC 61293."""
_WIRES: Final = re.compile(r"[\s,/(]*([34])[\s-]*w(?:ires?)?\.?\)?\s*$", re.I)
_JOINED: Final = re.compile(r"\s*(k?V)(?:olts?)?[\s,]+(wye|star|delta|[YΔ∆])\b\.?", re.I)
"""How its windings are joined, behind the unit: 480 V delta."""
_POLES: Final = re.compile(r"[\s,/]*(?:TP|SP)\s*&?\s*N\s*$", re.I)
"""Three or single pole and neutral, as boards are ordered."""
_HERTZ: Final = re.compile(r"[\s,;]*(?:50|60)\s*Hz\s*$", re.I)
_NEAR: Final = 0.03
_WRITTEN: Final = "System volts are written like 480Y/277, 400/230 or 120/240."


class SystemVolts(float):
    """Line volts; `neutral_v` is that of a line to neutral where the system has one (None: it has none).

    `kind` is "wye", "split" (single-phase, three wires) or "high-leg"; empty where only line volts are given, which
    may have a neutral.
    """

    neutral_v: float | None
    kind: str

    def __new__(cls, line_v: float, neutral_v: float | None = None, kind: str = "") -> SystemVolts:
        made = super().__new__(cls, line_v)
        made.neutral_v, made.kind = neutral_v, kind
        return made

    def __eq__(self, other: object) -> bool:
        """480 V with and without a neutral are not the same system."""
        same = float(self) == other
        if isinstance(other, SystemVolts):
            return same and (self.neutral_v, self.kind) == (other.neutral_v, other.kind)
        return same

    def __ne__(self, other: object) -> bool:
        return not self == other  # a number's own would look at the line volts alone

    __hash__ = float.__hash__


def two_wires(volts: float | None) -> bool:
    """Whether a system is of one phase, with two lines and a neutral: its transformer has one winding between them.

    >>> two_wires(read_system_volts("120/240")), two_wires(read_system_volts("480Y/277")), two_wires(240.0)
    (True, False, False)
    """
    return isinstance(volts, SystemVolts) and volts.kind == "split"


def per_line(volts: float) -> float:
    """Volt-amperes over line volts and amperes: √3, on two lines and a neutral 1."""
    return 1.0 if two_wires(volts) else 3**0.5


def to_neutral(volts: float) -> float:
    """From a line to neutral, as three-phase or half of a winding's volts.

    >>> to_neutral(read_system_volts("120/240")), round(to_neutral(read_system_volts("480"))), to_neutral(400.0) > 230
    (120.0, 277, True)
    """
    return volts / 2 if two_wires(volts) else volts / 3**0.5


def read_system_volts(text: str) -> SystemVolts:
    """Volts of `480`, `480Y/277`, `400/230 V`, `120/240`, `240/120 high-leg`. Raises QuantityError.

    >>> read_system_volts("480Y/277 V"), read_system_volts("230/400"), read_system_volts("120/240").neutral_v
    (480.0, 400.0, 120.0)
    >>> read_system_volts("240/120 high-leg").kind, read_system_volts("208Y/120").neutral_v
    ('high-leg', 120.0)
    >>> read_system_volts("480 V delta, 3 wire").neutral_v, read_system_volts("240/120 V 4W").kind
    (None, 'high-leg')
    >>> read_system_volts("3/N/PE ~ 400/230 V 50 Hz"), read_system_volts("3/N 400/230 V"), read_system_volts("3×690")
    (400.0, 400.0, 690.0)
    >>> read_system_volts("3 ph 240/120 V").kind, read_system_volts("240 V 3-phase high leg delta").kind
    ('high-leg', 'high-leg')
    """
    body, many = _without_phases(text)
    body = re.sub(r"(?<=\d)\s*Y\s*(?=\d)", "Y/", body, flags=re.I)  # 480Y277
    unit = "kV" if re.search(r"kV\s*$", body, re.I) else "V"
    body = re.sub(r"\s*(?:k?V(?:olts?)?)\s*$", "", body, flags=re.I)
    parts = [part.strip() for part in body.split("/") if part.strip()]
    delta = any(re.search(r"[Δ∆]|delta|\d\s*D$", part, re.I) for part in parts)
    numbers = [re.sub(r"\s*(?:[YΔ∆D]|wye|star|delta)\s*$", "", part, flags=re.I).strip() for part in parts]
    if any(re.search(r"[^\d.,\s'’]", number) for number in numbers):
        raise QuantityError(_WRITTEN)
    volts = sorted(q.VOLTAGE.read(f"{number} {unit}") for number in numbers)
    if not volts or len(volts) > 2:
        raise QuantityError(_WRITTEN)
    line = volts[-1]
    if len(volts) == 1:
        wye = any(re.search(r"[Yy]|star", part, re.I) for part in parts)
        return _of_one(line, many, "delta" if delta else "wye" if wye else "")
    if abs(line / volts[0] - 3**0.5) <= _NEAR:
        return SystemVolts(line, volts[0], "wye")
    if abs(line / volts[0] - 2) <= _NEAR:
        return SystemVolts(line, volts[0], "high-leg" if delta or many.three else "split")
    raise QuantityError(
        f"{text.strip()}: line volts are √3 × those to neutral, here {volts[0] * 3**0.5:.0f} V, or twice them on a "
        f"three-wire supply, {2 * volts[0]:.0f} V."
    )


def _of_one(line_v: float, many: _Many, winding: str) -> SystemVolts:
    """Where its line volts stand alone. Raises QuantityError for those of one phase."""
    if many.phases == 1:
        return _one_phase(line_v, many.wires)
    if many.high_leg or (winding == "delta" and many.wires == 4):
        return SystemVolts(line_v, line_v / 2, "high-leg")
    return SystemVolts(line_v, None if winding == "delta" else line_v / 3**0.5, "wye" if winding == "wye" else "")


def _one_phase(line_v: float, wires: int) -> SystemVolts:
    """Two lines and a neutral where three wires are said. Raises QuantityError where that is not known."""
    if wires != 3:
        raise QuantityError(
            "Of one phase: write 120/240 for two lines and a neutral, or the three-phase system that it is taken from, "
            "like 400/230."
        )
    return SystemVolts(line_v, line_v / 2, "split")


class _Many(NamedTuple):
    """What a text says of phases and wires."""

    phases: int
    wires: int
    high_leg: bool

    @property
    def three(self) -> bool:
        return self.high_leg or self.phases == 3 or self.wires == 4


def _without_phases(text: str) -> tuple[str, _Many]:
    """Its volts and windings alone, and what it says of phases, wires and a high leg, ahead of them or behind."""
    ahead = _AHEAD.match(text)
    body = re.sub(
        r"V\s*(?:AC\b|~)", "V", _HERTZ.sub("", _POLES.sub("", text[ahead.end() :] if ahead else text)), flags=re.I
    )
    body = _JOINED.sub(r" \2 \1", body).strip()
    phases, wires, high_leg = next(filter(None, ahead.groups()), "") if ahead else "", 0, False
    while found := next((match for one in (_HIGH_LEG, _WIRES, _PHASES) if (match := one.search(body))), None):
        body = body[: found.start()]  # behind the volts, in any order
        if found.re is _WIRES:
            wires = int(found.group(1))
        elif found.re is _PHASES:
            phases = found.group(1).casefold()
        else:
            high_leg = True
    return body, _Many({"": 0, "3": 3, "three": 3}.get(phases, 1), wires, high_leg)
