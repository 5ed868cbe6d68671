"""Materials that can burn: the library, own entries, and the lowest temperature at which any of them ignites."""

from __future__ import annotations

import re
from difflib import get_close_matches
from functools import cache
from typing import Final

from vinegate.core.numbers import QuantityError
from vinegate.core.records import dataclass
from vinegate.core.tables import Table, load

_NEC = "ABCDEFG"
_IEC_TO_NEC = {"IIA": "D", "IIB": "C", "IIC": "B", "IIIC": "E", "IIIB": "G"}
_NEC_TO_IEC = {"A": "IIC", "B": "IIC", "C": "IIB", "D": "IIA", "E": "IIIC", "F": "IIIB", "G": "IIIB"}


@dataclass(frozen=True, slots=True, kw_only=True)
class Material:
    """A gas, vapour, dust or fibre.

    `ignites_c` of gas or cloud, `layer_c` of a layer of 5 mm, `nec_c` as NFPA 499 has it; None where not known.

    `carbonises` for organic dusts that dry out and char. `own` for an entry of the user's.
    """

    name: str
    kind: str
    nec_group: str
    iec_group: str
    ignites_c: float | None
    layer_c: float | None
    carbonises: bool
    nec_c: float | None = None
    own: bool = False
    limits: str = ""
    note: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Materials:
    """What was typed, read."""

    text: str
    items: tuple[Material, ...]

    def with_one(self, other: Material) -> Materials:
        """The same with one more."""
        text = f"{self.text}, {other.name}" if self.text else other.name
        return Materials(text=text, items=(*self.items, other))


@cache
def library() -> tuple[Material, ...]:
    """Every material of the table, in its order."""
    table = load("hazardous_material")
    return tuple(_from_row(table, row) for row in table.rows)


def _from_row(table: Table, row: dict[str, str]) -> Material:
    figures = [value for column in ("nec_c", "iec_c") if (value := table.number(row, column)) is not None]
    low, high = row["lfl_pct"], row["ufl_pct"]
    dust = row["kind"] != "gas"
    cloud = table.number(row, "iec_c") if dust else None
    return Material(
        name=row["name"],
        kind=row["kind"],
        nec_group=row["nec_group"],
        iec_group=row["iec_group"],
        ignites_c=cloud if cloud is not None else min(figures, default=None),
        layer_c=table.number(row, "layer_c"),
        carbonises=row["carbonises"] == "yes",
        nec_c=table.number(row, "nec_c") if dust else None,
        limits=f"{low} to {high} %" if low and high else "",
        note=row["note"],
    )


@cache
def _names() -> dict[str, Material]:
    found = {}
    for row, material in zip(load("hazardous_material").rows, library(), strict=True):
        for name in (row["name"], *row["also"].split("|")):
            if name:
                found[name.casefold()] = material
    return found


def find(name: str) -> Material | None:
    """The library's material of that name or synonym."""
    return _names().get(re.sub(r"\bfiber", "fibre", name.strip().casefold()))


def read_materials(text: str) -> Materials:
    """Read a list such as `methane, hydrogen sulfide, solvent (IIB 240 °C)`. Raises QuantityError.

    >>> [m.name for m in read_materials("Methane; gasoline and H2S").items]
    ['methane', 'petrol', 'hydrogen sulfide']
    >>> [(m.iec_group, m.ignites_c) for m in read_materials("IIB T3").items]
    [('IIB', 201.0)]
    """
    listed = (part.strip() for part in re.split(r"[,;\n](?![^(]*\))", text))
    parts = [one for part in listed if part for one in _joined(part)]
    return Materials(text=", ".join(parts), items=tuple(_one(part) for part in parts))


def _joined(part: str) -> list[str]:
    """Those that "and" joins, where each but the last is known: a name of one's own may hold the word."""
    each = [one.strip() for one in re.split(r"(?:&|\band\b|\s/\s)(?![^(]*\))", part)]
    known = all(find(one) is not None or _CLASSIFIED.fullmatch(one) for one in each[:-1])
    return each if find(part) is None and known else [part]


def _one(part: str) -> Material:
    known = find(part)
    if known is not None:
        return known
    own = re.fullmatch(rf"(?P<name>[^()]{{1,{_LONGEST}}}?)\s*\((?P<facts>[^()]*)\)", part)
    if own is None and _CLASSIFIED.fullmatch(part):
        return _own(part, part.upper())
    if own is None and "(" in part and len(part.partition("(")[0].strip()) > _LONGEST:
        raise QuantityError(f"“{part[:24]}…” is longer than {_LONGEST} letters: give it a shorter name.")
    if own is None:
        near = get_close_matches(part.casefold(), _names(), n=3, cutoff=0.7)
        hint = f" Did you mean {', '.join(near)}?" if near else ""
        raise QuantityError(
            f"“{part}” is not in the library.{hint} Your own needs its group and temperature: {part} (IIA 300 °C); "
            f"of fibers, {part} (fibers)."
        )
    return _own(own["name"].strip(), own["facts"])


_DEGREES: Final = r"(?P<degrees>\d{2,4})\s*(?:°\s*(?P<sign>[CF])?|(?P<letter>[CF]))?\b"


def _celsius(found: re.Match[str]) -> float:
    """Degrees as written; Fahrenheit where it says so."""
    degrees, unit = float(found["degrees"]), found["sign"] or found["letter"] or "C"
    return round((degrees - 32) / 1.8, 1) if unit.upper() == "F" else degrees


_LONGEST: Final = 60
"""Letters of a name of one's own."""
_CLASSIFIED: Final = re.compile(r"(?:group\s*)?(?:II[ABC]|[A-D])\s*,?\s*T[1-6][A-D]?", re.I)
"""As a document of the area has a gas without its name: group and temperature class."""
_FIBRES: Final = re.compile(r"(?:fib(?:re|er)s?|flyings|class\s*III)(?:\s*(?:,|or|and)?\s*flyings)?", re.I)
_CLASS: Final = re.compile(r"\bT[1-6][A-D]?\b", re.I)


def _by_class(facts: str) -> str:
    """A temperature class as the least whole degrees above what it allows: so hot its gases ignite at the soonest."""
    found = _CLASS.search(facts)
    row = load("temperature_code").find(code=found[0].upper()) if found else None
    return facts if row is None or found is None else facts.replace(found[0], f"{int(row['most_c']) + 1} °C", 1)


def _own(name: str, facts: str) -> Material:
    """`IIB 240 °C`, `C 240 °C`, `IIB T3`, `IIIB cloud 430 °C layer 300 °C`, `G cloud 430 layer 300`, `fibers`."""
    if _FIBRES.fullmatch(facts.strip()):
        return Material(name=name, kind="fibre", nec_group="", iec_group="IIIA", ignites_c=None, layer_c=None,
                        carbonises=True, own=True)  # fmt: skip
    facts = re.sub(r"\bgroup\b", "", _by_class(facts), flags=re.I)
    layer = re.search(rf"layer\s*{_DEGREES}", facts, re.I)
    without = facts.replace(layer.group(0), "") if layer else facts
    cloud = re.search(_DEGREES, without)
    group = re.search(r"\b(III[ABC]|II[ABC]|[A-G])\b", re.sub(_DEGREES, " ", facts))
    if group is None or cloud is None:
        raise QuantityError(f"{name}: give its group and ignition temperature, as {name} (IIA 300 °C).")
    letters = group.group(1)
    nec = letters if letters in _NEC else _IEC_TO_NEC.get(letters, "")
    iec = _NEC_TO_IEC[letters] if letters in _NEC else letters
    dust = iec.startswith("III")
    if dust and layer is None:
        raise QuantityError(
            f"{name}: a dust needs its layer's temperature too, as {name} (IIIB cloud 430 °C layer 260 °C)."
        )
    return Material(
        name=name,
        kind="dust" if dust else "gas",
        nec_group=nec,
        iec_group=iec,
        ignites_c=_celsius(cloud),
        layer_c=_celsius(layer) if layer else None,
        carbonises=dust and iec != "IIIC",
        own=True,
    )
