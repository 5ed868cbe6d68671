"""The checks of one device in a classified area: protection, temperature, ambient, conditions."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final

from vinegate.core.facts import Circuit
from vinegate.core.gate import Verdict
from vinegate.core.location.covers import Answer, covers
from vinegate.core.location.enclosure import ip_digits
from vinegate.core.location.explain import cabinet_type
from vinegate.core.location.facts import Area
from vinegate.core.location.listing import Marking
from vinegate.core.location.machine import in_gas_zone_2, totally_enclosed, without_listing
from vinegate.core.location.temperature import Limit, coolest_needed, hottest_c, lowest, passes
from vinegate.core.quantity import write
from vinegate.core.tables import load

_UNMARKED_C: Final = 100.0  # what need not be marked under NEC heats no further
_NEED_NO_CODE: Final = ("buttons", "starter")
_LISTED_AMBIENT: Final = (-25.0, 40.0)
_EX_AMBIENT: Final = (-20.0, 40.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class Check:
    """One thing that a device in its area must meet."""

    name: str
    verdict: Verdict
    text: str
    rule: str


def protection_check(circuit: Circuit, key: str, area: Area, marking: Marking, rules: str) -> Check:
    """Whether its listing or certificate covers the area, or the area asks none of it."""
    found = covers(area, marking, rules)
    if area.status == "division" and found.verdict in (Verdict.SHUT, Verdict.UNKNOWN):
        other = _without(circuit, key, area, marking)
        if other is not None and (marking.empty or other.verdict is Verdict.OPEN):
            found = other
    if area.status == "zone" and area.zone == "2" and key == "motor" and marking.empty and rules == "nec":
        found = in_gas_zone_2(circuit.plate)
    elif area.status == "zone" and key == "motor" and marking.empty and totally_enclosed(circuit.plate):
        text = "Totally enclosed is not flameproof: nothing on its plate says that it may stand in a zone."
        found = Answer(verdict=Verdict.SHUT, text=text, rule="IEC 60079-14:2013 5.3")
    return Check(name="Protection", verdict=found.verdict, text=found.text, rule=found.rule)


def _without(circuit: Circuit, key: str, area: Area, marking: Marking) -> Answer | None:
    """What a device may be without a listing that covers the area."""
    if key == "motor":
        return without_listing(area, circuit.plate)
    if area.hazard_class != "I" and (area.division == "2" or area.hazard_class == "III"):
        return _dust_tight(getattr(circuit.place, f"{key}_enclosure"))
    if marking.empty:
        text = "Its contacts spark in normal work: a listing for this class, division and group is asked."
        return Answer(
            verdict=Verdict.UNKNOWN, text=f"Its marking is not known. {text}", rule="NFPA 70:2023 501.115, 502.115"
        )
    return None


def _dust_tight(text: str | None) -> Answer | None:
    if not text:
        return None
    kind, digits = cabinet_type(text), ip_digits(text)
    rule = "NFPA 70:2023 502.115(B), 503.115; table 110.28"
    tight = kind is not None and (load("nema_type").find(type=kind) or {}).get("dust") == "yes"
    if tight or (digits and digits[0] == 6):
        return Answer(verdict=Verdict.OPEN, text=f"Dust-tight, {text}: allowed here without a listing.", rule=rule)
    return Answer(
        verdict=Verdict.SHUT, text=f"{text} is not dust-tight, and it has no listing for this area.", rule=rule
    )


def code_of(marking: Marking, area: Area) -> str:
    """The temperature marking that counts in this area; of several of its kind the hottest."""
    dust = area.hazard_class in ("II", "III") or len(area.zone or "") == 2
    by_zone = [mark.temperature for mark in marking.ex if mark.temperature and mark.dust == dust]
    by_zone.sort(key=lambda code: hottest_c(code) or 0.0, reverse=True)
    if area.status == "zone" and by_zone:
        return by_zone[0]
    return marking.temperature or (by_zone[0] if by_zone else "")


def temperature_check(circuit: Circuit, key: str, area: Area, marking: Marking, rules: str) -> Check:
    """The marked surface against every material present."""
    name = "Temperature"
    if area.materials is None:
        return Check(
            name=name, verdict=Verdict.UNKNOWN, text="What is present is not known: its materials are asked.", rule=""
        )
    limit = lowest(area.materials.items, rules)
    if limit is None:
        text = "A material's ignition temperature is not known."
        return Check(name=name, verdict=Verdict.UNKNOWN, text=text, rule="")
    code = code_of(marking, area)
    hottest = hottest_c(code) if code else None
    needed = coolest_needed(limit, rules) or "cooler than T6"
    most = f"{limit.material} allows {write(limit.most_c, 3)} °C"
    if hottest is None:
        return _unmarked(circuit, key, area, limit, f"{most}, {needed}", rules)
    fits = passes(hottest, limit)
    said = code if code.endswith("C") and "°" in code else f"{code}, {write(hottest, 3)} °C"
    text = f"{said}: {most}." if fits else f"{said}, is too hot: {most}, {needed}."
    return Check(name=name, verdict=Verdict.OPEN if fits else Verdict.SHUT, text=text, rule=limit.rule)


def _unmarked(circuit: Circuit, key: str, area: Area, limit: Limit, most: str, rules: str) -> Check:
    name = "Temperature"
    if rules == "nec" and key in _NEED_NO_CODE:
        fits = passes(_UNMARKED_C, limit)
        text = f"Unmarked, so at most 100 °C: {most}."
        return Check(
            name=name, verdict=Verdict.OPEN if fits else Verdict.SHUT, text=text, rule="NFPA 70:2023 500.8(C)(4)"
        )
    if key == "motor" and area.status == "division" and area.division == "2":
        text = f"No T-code, nor need it have one: ask its maker for the hottest surface, rotor included; {most}."
        return Check(name=name, verdict=Verdict.AJAR, text=text, rule="NFPA 70:2023 501.125(B), 502.125(B)")
    text = f"Its T-code is not known; {most}."
    return Check(name=name, verdict=Verdict.UNKNOWN, text=text, rule=limit.rule)


def ambient_check(circuit: Circuit, key: str, area: Area, marking: Marking, rules: str) -> Check:
    """The range its certificate is for against the area's air."""
    name = "Ambient"
    low, high = _range(circuit, key, marking)
    rule = "NFPA 70:2023 500.8(C)(5)" if marking.listed else "IEC 60079-0:2017 5.1.1"
    if area.ambient_high_c is None:
        return Check(name=name, verdict=Verdict.UNKNOWN, text="The warmest air of the area is not known.", rule=rule)
    coldest = area.ambient_low_c
    shown = f"{low:g} to {high:g} °C".replace("-", "−")
    if area.ambient_high_c > high or (coldest is not None and coldest < low):
        here = (
            f"{coldest:g} to {area.ambient_high_c:g} °C" if coldest is not None else f"up to {area.ambient_high_c:g} °C"
        )
        text = f"Certified for {shown}; the air here is {here.replace('-', '−')}."
        return Check(name=name, verdict=Verdict.SHUT, text=text, rule=rule)
    return Check(name=name, verdict=Verdict.OPEN, text=f"Air within {shown}.", rule=rule)


def _range(circuit: Circuit, key: str, marking: Marking) -> tuple[float, float]:
    marked = next((mark.ambient_c for mark in marking.ex if mark.ambient_c is not None), None)
    low, high = marked or (_LISTED_AMBIENT if marking.listed or not marking.ex else _EX_AMBIENT)
    if key == "motor" and marked is None and circuit.plate.ambient_c is not None:
        high = circuit.plate.ambient_c
    return low, high


def conditions_check(circuit: Circuit) -> Check:
    """X: the certificate's conditions of use."""
    met = circuit.place.conditions
    verdict = {"yes": Verdict.OPEN, "no": Verdict.SHUT}.get(met or "", Verdict.UNKNOWN)
    texts = {
        Verdict.OPEN: "X: the certificate's conditions are said to be met.",
        Verdict.SHUT: "X: the certificate's conditions are not met.",
        Verdict.UNKNOWN: "X: its certificate lists conditions of use. Whether they are met is not known.",
    }
    return Check(name="Conditions", verdict=verdict, text=texts[verdict], rule="IEC 60079-0:2017 29.3")
