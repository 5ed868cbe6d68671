"""The duty a machine is rated for, as plates write it: for ever, for so many minutes, or a share of a cycle."""

from __future__ import annotations

import re
from typing import Final

from vinegate.core.records import dataclass

CYCLE_S: Final = 600.0
"""Of a periodic duty where its plate says no other: IEC 60034-1:2022 4.2.3."""
_DAY_MIN: Final = 1440.0
_KIND: Final = re.compile(r"(?<![A-Z0-9])S\s?(10|[1-9])(?!\d)")
_FOR_EVER: Final = re.compile(r"\b(?:CONT|CMR\b|AIR\s?OVER\b|A\.?O\.?$)")
_SPAN: Final = re.compile(r"(?:(\d+)\s*/\s*(\d+)|(\d+(?:[.,]\d+)?))\s*-?(MIN|H(?:OU)?RS?\b|H\b(?!\.\s?P))")
_SHARE: Final = re.compile(r"(\d+(?:[.,]\d+)?)\s*%")
_BARE: Final = re.compile(r"^(S\s?[236])\s*[-–/ ]\s*(\d{2,3})$")
"""Minutes of S2, per cent of S3 and S6, their unit left out."""
_PERIODIC: Final = ("S3", "S4", "S5", "S6", "S7", "S8")


@dataclass(frozen=True, slots=True)
class Duty:
    """As the plate has it: `kind` S1 to S10, empty where it names none; minutes of a short time, share of a cycle.

    Minutes and share are None where they are not said.
    """

    text: str
    kind: str
    minutes: float | None = None
    share_pu: float | None = None

    @property
    def continuous(self) -> bool:
        return self.kind == "S1"

    @property
    def periodic(self) -> bool:
        return self.kind in _PERIODIC


def read_duty(text: str | None) -> Duty | None:
    """None for an empty field.

    Source: IEC 60034-1:2022 4.2 and 5.2 for the types, NEMA MG 1:2021 10.36 for time ratings. A share alone is that of
    a periodic duty.

    >>> read_duty("1/2 HR").minutes, read_duty("S3-40 %").share_pu, read_duty("40% ED").kind
    (30.0, 0.4, 'S3')
    >>> read_duty("20 H.P.").minutes, read_duty("0.5 H").minutes
    (None, 30.0)
    >>> read_duty("S2-30").minutes, read_duty("S3 40").share_pu, read_duty("S6/60").share_pu
    (30.0, 0.4, 0.6)
    >>> read_duty("CONT").continuous, read_duty("24 h/day").continuous, read_duty("S10").kind, read_duty("heavy").kind
    (True, True, 'S10', '')
    """
    said = (text or "").strip().upper().replace("½", "1/2")
    if not said:
        return None
    said = _BARE.sub(lambda found: f"{found[1]} {found[2]} {'MIN' if found[1].endswith('2') else '%'}", said)
    kind, minutes, share = _KIND.search(said), _minutes(said), _share(said)
    if kind:
        name = f"S{kind.group(1)}"
    elif _FOR_EVER.search(said) or (minutes is not None and minutes >= _DAY_MIN):
        name = "S1"
    elif minutes is not None:
        name = "S2"
    else:
        name = "S3" if share is not None or said.startswith("INT") else ""
    return Duty(said, name, minutes, share)


def _minutes(said: str) -> float | None:
    found = _SPAN.search(said)
    if found is None:
        return None
    above, below, plain, unit = found.groups()
    if above and not int(below):
        return None
    value = int(above) / int(below) if above else float(plain.replace(",", "."))
    return value * (60 if unit.startswith("H") else 1)


def _share(said: str) -> float | None:
    found = _SHARE.search(said)
    return float(found.group(1).replace(",", ".")) / 100 if found else None
