"""Conduit and the wires in it by the names that people give them: kinds, trade sizes, types of insulation."""

from __future__ import annotations

import re
from typing import Final

from vinegate.core.field import Also, one_of
from vinegate.core.numbers import QuantityError, split_unit
from vinegate.core.records import dataclass
from vinegate.core.tables import load

COVERINGS: Final = (
    ("thhn", "THHN/THWN-2"),
    ("xhhw", "XHHW-2"),
    ("thw", "THW-2"),
    ("rhw", "RHW-2"),
)
COVERINGS_ALSO: Final[Also] = {
    **dict.fromkeys(("THHN", "THWN", "THWN-2", "THHN/THWN", "T90"), "thhn"),
    **dict.fromkeys(("XHHW", "XHH", "XHHN"), "xhhw"),
    **dict.fromkeys(("THW", "TW", "THHW", "THHW-2"), "thw"),
    **dict.fromkeys(("RHW", "RHH", "RHW-2", "RHH/RHW-2"), "rhw"),
}
"""NFPA 70:2023 chapter 9 table 5: types of one area."""
CONDUITS: Final = (
    ("emt", "EMT"),
    ("imc", "IMC"),
    ("rmc", "RMC"),
    ("pvc-40", "PVC 40"),
    ("pvc-80", "PVC 80"),
    ("lfmc", "LFMC"),
    ("fmc", "FMC"),
)
CONDUITS_ALSO: Final[Also] = {
    **dict.fromkeys(
        ("rigid metal conduit", "GRC", "RGS", "GRS", "rigid", "rigid steel", "rigid aluminum", "RAC"), "rmc"
    ),
    **dict.fromkeys(("liquidtight flexible", "LFM", "LT", "liquidtight", "LTFMC"), "lfmc"),
    **dict.fromkeys(("flexible metal", "flex", "flexible"), "fmc"),
    **dict.fromkeys(("PVC sch 40", "PVC schedule 40", "sch 40 PVC", "sch 40", "schedule 40"), "pvc-40"),
    **dict.fromkeys(("PVC sch 80", "PVC schedule 80", "sch 80 PVC", "sch 80", "schedule 80"), "pvc-80"),
    "PVC": ("pvc-40", "pvc-80"),
    "steel": ("emt", "imc", "rmc"),
}
FLEXIBLE: Final = ("lfmc", "fmc")
_OF: Final = {"steel": ("emt", "imc", "rmc"), "aluminium": ("emt", "rmc"), "pvc": ("pvc-40", "pvc-80")}
_LAID: Final = {"emt": "steel", "imc": "steel", "rmc": "steel", **dict.fromkeys(FLEXIBLE, "steel"),
                "pvc-40": "pvc", "pvc-80": "pvc"}  # fmt: skip
TRADES: Final = tuple((row["trade"], f"{row['trade'].replace('-', ' ')} in") for row in load("conduit_nec").rows)
_ASIDE: Final = re.compile(r"\s*(?:trade(?:\s*size)?|C\.?|conduit)$", re.I)
_IN_INCHES: Final = ("", '"', "''", "”", "″", "in", "in.", "inch", "inches")


def kinds_of(raceway: str | None) -> tuple[str, ...]:
    """Kinds of conduit that one of a material may be, flexible ones apart; of none said, all of them."""
    return _OF.get(raceway or "", tuple(dict.fromkeys(kind for kinds in _OF.values() for kind in kinds)))


def raceway_of(raceway: str | None, kind: str | None) -> str | None:
    """The material that is said, else that of its kind: tubing and rigid conduit are taken as steel.

    >>> raceway_of(None, "emt"), raceway_of("aluminium", "rmc"), raceway_of(None, None)
    ('steel', 'aluminium', None)
    """
    return raceway or _LAID.get(kind or "")


def fits(raceway: str | None, kind: str | None) -> bool:
    """Whether a conduit of that material may be of that kind."""
    return raceway is None or kind is None or (kind in FLEXIBLE and raceway != "pvc") or kind in _OF[raceway]


def read_trade(text: str) -> str:
    """A trade size in inches, from it, its decimals or its metric designator. Raises QuantityError.

    >>> read_trade('1-1/4"'), read_trade("1 1/4 in"), read_trade("1.25"), read_trade("35"), read_trade('2"C')
    ('1-1/4', '1-1/4', '1-1/4', '1-1/4', '2')
    """
    try:
        sizes, unit = split_unit(f"{_ASIDE.sub('', text.strip())} ")
    except QuantityError:
        sizes, unit = [], ""
    for row in load("conduit_nec").rows if unit.lstrip("-") in (*_IN_INCHES, "mm") else ():
        inches, metric = split_unit(f"{row['trade']} in")[0], [float(row["metric"])]
        if (sizes == metric and unit in ("", "mm")) or (sizes == inches and unit != "mm"):
            return row["trade"]
    raise QuantityError(f"“{text.strip()}” is no trade size of conduit: write it like 3/4, 1-1/4 or 2 in.")


@dataclass(frozen=True, slots=True, kw_only=True)
class Lies:
    """The conduit that a text says: its trade size, and its kind or its material alone."""

    trade: str = ""
    kind: str = ""
    raceway: str = ""


NOWHERE: Final = Lies()
_MATERIALS: Final = {"pvc": "pvc", "steel": "steel", "aluminum": "aluminium", "aluminium": "aluminium"}
_INCHES: Final = r"(?:\"|''|”|″|-?\s*in(?:ch)?\b\.?)"
_BEHIND: Final = re.compile(
    r"[\s,;&+–-]*\b(?:in\s+(?:an?\s+)?)?(\d+(?:[\s-]+\d/\d)?|\d/\d)\s*" + _INCHES + r"\s*([A-Za-z][\w .-]*)?$", re.I
)
"""1-1/4"C, in 1 in EMT: the conduit behind its wires."""
_ALONE: Final = re.compile(r"(\d+(?:[\s-]+\d/\d)?|\d/\d)?\s*" + _INCHES + r"?\s*([A-Za-z][\w .-]*)", re.I)


def conduit_behind(text: str) -> tuple[str, Lies]:
    """What stands ahead of a conduit in a cable's text, and the conduit; the whole text where none is said."""
    said = _BEHIND.search(text)
    return (text, NOWHERE) if said is None else (text[: said.start()], _lies(said[1], said[2] or ""))


def conduit_of(text: str) -> Lies:
    """A conduit with its kind as one text says both, or its kind alone. Raises QuantityError.

    >>> conduit_of("1-1/4 EMT"), conduit_of("PVC")
    (Lies(trade='1-1/4', kind='emt', raceway=''), Lies(trade='', kind='', raceway='pvc'))
    """
    said = _ALONE.fullmatch(text.strip())
    return NOWHERE if said is None else _lies(said[1] or "", said[2])


def _lies(trade: str, kind: str) -> Lies:
    size, word = read_trade(trade) if trade else "", kind.strip(" .").casefold()
    word = "" if word in ("c", "conduit") else word.removesuffix(" conduit")
    if not word:
        return Lies(trade=size)
    if word in _MATERIALS:
        return Lies(trade=size, raceway=_MATERIALS[word])
    return Lies(trade=size, kind=one_of(word, CONDUITS, CONDUITS_ALSO))
