"""The checks of one device in a classified area: protection, temperature, ambient, conditions."""

from __future__ import annotations

from typing import Final

from vinegate.core.facts import Circuit
from vinegate.core.grade import Answer, Kind, Verdict, breaks, depends, lacks, meets, on_site, ruled
from vinegate.core.numbers import write
from vinegate.core.place.covers import covers, fits_motor
from vinegate.core.place.explain import cabinet_types
from vinegate.core.place.facts import Area
from vinegate.core.place.listing import Marking
from vinegate.core.place.machine import in_gas_zone_2, totally_enclosed, without_listing
from vinegate.core.place.temperature import Limit, coolest_needed, hottest_c, lowest, passes
from vinegate.core.plate.enclosed import ip_marks
from vinegate.core.records import dataclass
from vinegate.core.rules import RuleSet
from vinegate.core.tables import load
from vinegate.core.turning import Turns

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
    turns: Turns | None = None
    kind: Kind = Kind.ENGINEERING

    @classmethod
    def of(cls, name: str, found: Answer) -> Check:
        return cls(
            name=name, verdict=found.verdict, text=found.text, rule=found.rule, turns=found.turns, kind=found.kind
        )


def protection_check(circuit: Circuit, key: str, area: Area, marking: Marking, rules: RuleSet) -> Check:
    """Whether its listing or certificate covers the area, or the area asks none of it."""
    found = covers(area, marking, rules)
    if key == "motor" and found.verdict.usable and not marking.listed and not fits_motor(marking):
        found = lacks(_NO_MOTOR, "IEC 60079-14:2013 5.3")
    if area.status == "division" and not found.verdict.usable:
        other = _without(circuit, key, area, marking)
        if other is not None and (marking.empty or other.verdict is Verdict.PASSES):
            found = other
    if area.status == "zone" and area.zone == "2" and key == "motor" and marking.empty and rules.hazards.zone_2_motors:
        found = in_gas_zone_2(circuit.plate)
    elif area.status == "zone" and key == "motor" and marking.empty and totally_enclosed(circuit.plate):
        text = "Totally enclosed is not flameproof: nothing on its plate says that it may stand in a zone."
        found = breaks(text, "IEC 60079-14:2013 5.3")
    return Check.of("Protection", found)


_NO_MOTOR: Final = "Its marking's type protects no motor of this kind, as d, e, n, p or t do: read it again."


def _without(circuit: Circuit, key: str, area: Area, marking: Marking) -> Answer | None:
    """What a device may be without a listing that covers the area."""
    if key == "motor":
        return without_listing(area, circuit.plate)
    if area.hazard_class != "I" and (area.division == "2" or area.hazard_class == "III"):
        return _dust_tight(getattr(circuit.place, f"{key}_enclosure"))
    if marking.empty:
        text = "Its contacts spark in normal work: a listing for this class, division and group is asked."
        return lacks(f"Its marking is not known. {text}", "NFPA 70:2023 501.115, 502.115")
    return None


def _dust_tight(text: str | None) -> Answer | None:
    if not text:
        return None
    kinds, marks = cabinet_types(text), ip_marks(text)
    rule = "NFPA 70:2023 502.115(B), 503.115; table 110.28"
    tight = any((load("nema_type").find(type=kind) or {}).get("dust") == "yes" for kind in kinds)
    if tight or any(solids == 6 for solids, _ in marks):
        return meets(f"Dust-tight, {text}: allowed here without a listing.", rule)
    return breaks(f"{text} is not dust-tight, and it has no listing for this area.", rule)


def code_of(marking: Marking, area: Area) -> str:
    """The temperature marking that counts in this area; of several of its kind the hottest."""
    dust = area.hazard_class in ("II", "III") or len(area.zone or "") == 2
    by_zone = [mark.temperature for mark in marking.ex if mark.temperature and mark.dust == dust]
    by_zone.sort(key=lambda code: hottest_c(code) or 0.0, reverse=True)
    if area.status == "zone" and by_zone:
        return by_zone[0]
    return marking.temperature or (by_zone[0] if by_zone else "")


def temperature_check(circuit: Circuit, key: str, area: Area, marking: Marking, rules: RuleSet) -> Check:
    """The marked surface against every material present."""
    name = "Temperature"
    if area.materials is None:
        return Check.of(name, lacks("What is present is not known: its materials are asked."))
    limit = lowest(area.materials.items, rules, overloads=key == "motor")
    if limit is None:
        text = "A material's ignition temperature is not known."
        return Check.of(name, lacks(text))
    code = code_of(marking, area)
    hottest = hottest_c(code) if code else None
    needed = coolest_needed(limit, rules) or "cooler than T6"
    most = f"{limit.material} allows {write(limit.most_c, 3)} °C"
    if hottest is None:
        return _unmarked(key, area, limit, f"{most}, {needed}", rules)
    fits = passes(hottest, limit)
    said = code if code.endswith("C") and "°" in code else f"{code}, {write(hottest, 3)} °C"
    text = f"{said}: {most}." if fits else f"{said} is too hot: {most}, {needed}."
    return Check.of(name, ruled(fits, text, limit.rule))


def _unmarked(key: str, area: Area, limit: Limit, most: str, rules: RuleSet) -> Check:
    name = "Temperature"
    if rules.hazards.unmarked_cool and key in _NEED_NO_CODE:
        fits = passes(_UNMARKED_C, limit)
        text = f"Unmarked, so at most 100 °C: {most}."
        return Check.of(name, ruled(fits, text, "NFPA 70:2023 500.8(C)(4)"))
    if key == "motor" and area.status == "division" and area.division == "2":
        text = f"No T-code, nor need it have one: ask its maker for the hottest surface, rotor included; {most}."
        code = coolest_needed(limit, rules) or "T6"
        hotter = "" if passes(450.0, limit) else "T1"
        turns = Turns(
            path="plate.temperature_code", label="hottest surface", passes=code, fails=hotter, passes_as=code,
            fails_as=hotter,
        )  # fmt: skip
        return Check.of(name, depends(f"{text} Passes for {code}.", turns, "NFPA 70:2023 501.125(B), 502.125(B)"))
    return Check.of(name, lacks(f"Its T-code is not known; {most}.", limit.rule))


def ambient_check(circuit: Circuit, key: str, area: Area, marking: Marking, rules: RuleSet) -> Check:
    """The range its certificate is for against the area's air."""
    name = "Ambient"
    low, high = _range(circuit, key, marking)
    rule = rules.papers.ambient
    shown = f"{low:g} to {high:g} °C".replace("-", "−")
    if area.ambient_high_c is None:
        return Check.of(name, on_site(f"The warmest air of the area is not given: certified for {shown}.", rule))
    coldest = area.ambient_low_c
    if area.ambient_high_c > high or (coldest is not None and coldest < low):
        here = (
            f"{coldest:g} to {area.ambient_high_c:g} °C" if coldest is not None else f"up to {area.ambient_high_c:g} °C"
        )
        text = f"Certified for {shown}; the air here is {here.replace('-', '−')}."
        return Check.of(name, breaks(text, rule))
    if coldest is None:
        return Check.of(name, on_site(f"The coldest air of the area is not given: certified for {shown}.", rule))
    return Check.of(name, meets(f"Air within {shown}.", rule))


def _range(circuit: Circuit, key: str, marking: Marking) -> tuple[float, float]:
    marked = next((mark.ambient_c for mark in marking.ex if mark.ambient_c is not None), None)
    low, high = marked or (_LISTED_AMBIENT if marking.listed or not marking.ex else _EX_AMBIENT)
    if key == "motor" and marked is None and circuit.plate.ambient_c is not None:
        high = circuit.plate.ambient_c
    return low, high


def conditions_check(circuit: Circuit) -> Check:
    """X: the certificate's conditions of use."""
    rule, met = "IEC 60079-0:2017 29.3", circuit.place.conditions
    if met is None:
        text = "X: its certificate lists conditions of use: read them, and see that they are met."
        return Check.of("Conditions", on_site(text, rule))
    text = f"X: the certificate's conditions are {'said to be' if met == 'yes' else 'not'} met."
    return Check.of("Conditions", ruled(met == "yes", text, rule))
