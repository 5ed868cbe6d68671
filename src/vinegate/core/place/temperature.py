"""The hottest surface that nothing present ignites at, against a marking's temperature."""

from __future__ import annotations

import re
from operator import itemgetter
from typing import Final

from vinegate.core.place.materials import Material
from vinegate.core.records import dataclass
from vinegate.core.rules import RuleSet
from vinegate.core.tables import load

_CARBONISES_C: Final = 165.0
_OVERLOADED_C: Final = 120.0  # class III, equipment that may be overloaded
_CLOUD: Final = 2 / 3
_LAYER_LESS: Final = 75.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Limit:
    """The hottest surface allowed, °C, the material that decides, the rule; `reached` where the limit itself may be."""

    most_c: float
    material: str
    rule: str
    reached: bool


def limit_of(material: Material, rules: RuleSet, *, overloads: bool = False) -> Limit | None:
    """The limit one material sets; None where its temperatures are not known.

    NEC gas: at or below ignition (500.8(D)(1)). NEC dust: below the figure of NFPA 499, at most 165 °C where it
    carbonises (500.8(D)(2)); fibres 165 °C, 120 °C for what may be overloaded, as motors (503.5). IEC gas: below
    ignition. IEC dust: at most ⅔ of the cloud's and 75 K below the layer's (IEC 60079-14:2013 5.6.3).
    """
    if material.kind == "gas":
        return _gas(material, rules)
    figures = [value for value in (material.ignites_c, material.layer_c) if value is not None]
    if rules.hazards.own_dust and material.nec_c is not None:
        figures = [material.nec_c]
    if rules.hazards.own_dust and material.kind == "fibre":
        most = min(*figures, _OVERLOADED_C if overloads else _CARBONISES_C, _CARBONISES_C)
        return Limit(most_c=most, material=material.name, rule="NFPA 70:2023 503.5", reached=True)
    if not figures:
        return None
    if rules.hazards.own_dust:
        lowest = min(figures)
        if material.carbonises and lowest >= _CARBONISES_C:
            return Limit(
                most_c=_CARBONISES_C, material=material.name, rule="NFPA 70:2023 500.8(D)(2), carbonises", reached=True
            )
        return Limit(most_c=lowest, material=material.name, rule="NFPA 70:2023 500.8(D)(2)", reached=False)
    return _iec_dust(material)


def _gas(material: Material, rules: RuleSet) -> Limit | None:
    if material.ignites_c is None:
        return None
    return Limit(
        most_c=material.ignites_c,
        material=material.name,
        rule=rules.papers.gas,
        reached=rules.hazards.reaches,
    )


def _iec_dust(material: Material) -> Limit:
    found = []
    if material.ignites_c is not None:
        found.append((_CLOUD * material.ignites_c, "⅔ of the cloud's"))
    if material.layer_c is not None:
        found.append((material.layer_c - _LAYER_LESS, "75 K below a 5 mm layer's"))
    most, how = min(found)
    return Limit(most_c=most, material=material.name, rule=f"IEC 60079-14:2013 5.6.3, {how}", reached=True)


def lowest(materials: tuple[Material, ...], rules: RuleSet, *, overloads: bool = False) -> Limit | None:
    """The limit that all of them set together: every material counts, not one. None where one's is not known."""
    limits = [limit_of(material, rules, overloads=overloads) for material in materials]
    known = [limit for limit in limits if limit is not None]
    if not limits or len(known) < len(limits):
        return None
    return min(known, key=lambda limit: (limit.most_c, limit.reached))


def hottest_c(code: str | None) -> float | None:
    """The surface a marking allows, of several the hottest; None where it is no temperature code.

    >>> hottest_c("T3C"), hottest_c("T-3 (200 °C)"), hottest_c("T135 °C"), hottest_c("T6 / T4"), hottest_c("T9")
    (160.0, 200.0, 135.0, 135.0, None)
    """
    text = code_of(code)
    row = load("temperature_code").find(code=text)
    if row is not None:
        return float(row["most_c"])
    match = re.fullmatch(r"T(\d{2,3}) °C", text)
    return float(match.group(1)) if match else None


def code_of(text: str | None) -> str:
    """The temperature code that a plate says, as tables and markings write it; the text itself where it says none.

    >>> code_of("temp. code t3c"), code_of("T-4"), code_of("135 °C"), code_of("as ordered")
    ('T3C', 'T4', 'T135 °C', 'AS ORDERED')
    """
    said, table = (text or "").strip().upper(), load("temperature_code")
    rows = [table.find(code=f"T{number}{letter}") for number, letter in _CODES.findall(said)]
    known = [(float(row["most_c"]), row["code"]) for row in rows if row is not None]
    if len(known) < len(rows):
        return said
    degrees = [(float(a or b), f"T{a or b} °C") for a, b in _DEGREES.findall(said)]
    return max([*known, *degrees], key=itemgetter(0))[1] if known or degrees else said


_CODES: Final = re.compile(r"(?<![A-Z])T\s?-?\s?([1-9])([A-Z]?)(?![A-Z0-9])")
_DEGREES: Final = re.compile(r"(?<![A-Z0-9])T\s?(\d{2,3})\s*°?\s*C?(?!\d)|(?<!\d)(\d{2,3})\s*°\s*C")


def passes(hottest: float, limit: Limit) -> bool:
    """Whether a surface stays below the limit, or reaches it where that is allowed."""
    return hottest <= limit.most_c if limit.reached else hottest < limit.most_c


def coolest_needed(limit: Limit, rules: RuleSet) -> str | None:
    """The first temperature code that passes, from hot to cool; None where even T6 is too hot."""
    for row in load("temperature_code").rows:
        if (rules.hazards.letter_codes or row["iec"] == "yes") and passes(float(row["most_c"]), limit):
            return row["code"]
    return None
