"""A temperature code against what may burn."""

from __future__ import annotations

from typing import Final

from vinegate.core import quantity as q
from vinegate.core.field import Fact, Facts, choice, field, measure
from vinegate.core.grade import Gate, Verdict, at_most, over, rule, unknown
from vinegate.core.numbers import write
from vinegate.core.place.materials import Material
from vinegate.core.place.temperature import hottest_c, limit_of, passes
from vinegate.core.quick.tool import Tool
from vinegate.core.rules import RuleSet
from vinegate.core.sheet import Sheet
from vinegate.core.tables import load
from vinegate.core.working import Provenance

_USUAL_C: Final = 40.0
"""Air that a marking is for where it says no other: IEC 60079-0:2017 5.1.1, NFPA 70:2023 500.8(C)(5)."""
_KINDS: Final = (
    ("gas", "gas or vapour"),
    ("cloud", "dust as a cloud"),
    ("layer", "dust as a layer"),
    ("grain", "dust that chars"),
)


class Code(Facts):
    """A temperature code against what may burn."""

    code: str | None = field(Fact(label="Temperature code", read=lambda text: text.strip().upper(), example="T3"))
    ignites_c: float | None = field(measure("The material ignites at", q.TEMPERATURE, "θ_i", example="260 °C"))
    present: str | None = field(choice("It is", _KINDS, help="Dust: its cloud and its layer, one after the other."))
    ambient_c: float | None = field(measure("Hottest air", q.AMBIENT, "θ_a", help="Empty: up to 40 °C."))
    marked_c: float | None = field(measure("Marked for air to", q.AMBIENT, "T_a", help="Empty: 40 °C."))


def _material(kind: str, ignites: float) -> Material:
    layer = kind in ("layer", "grain")
    return Material(name=dict(_KINDS)[kind], kind="gas" if kind == "gas" else "dust", nec_group="", iec_group="",
                    ignites_c=None if layer else ignites, layer_c=ignites if layer else None,
                    carbonises=kind == "grain")  # fmt: skip


def _surface(code: str, most: float, kind: str, ignites: float, rules: RuleSet) -> Gate:
    limit = limit_of(_material(kind, ignites), rules)
    assert limit is not None  # its temperature is given
    text = f"{'up to' if limit.reached else 'less than'} {write(limit.most_c, 3)} °C is allowed"
    return rule(
        "code.surface", "Cooler than what it may light", passes(most, limit),
        f"{code}: its surface stays at {most:g} °C; {text}.", limit.rule, remedy="A cooler code.", unit="°C",
        value=most, limit=limit.most_c, margin=limit.most_c - most,
    )  # fmt: skip


def _air(facts: Code) -> Gate | None:
    """Hotter air than the marking is for makes the surface hotter; none up to 40 °C, for which every marking is."""
    air, marked = facts.ambient_c, facts.marked_c
    if (air is None or air <= _USUAL_C) and (marked is None or marked >= _USUAL_C):
        return None
    key, name = "code.air", "Marked for that air"
    if marked is None:
        return unknown(key, name, ("the warmest air that its marking is for",))
    here = _USUAL_C if air is None else air
    return at_most(
        key, name, here, marked, unit="°C", source="IEC 60079-0:2017 5.1.1; NFPA 70:2023 500.8(C)(5)",
        sentence=f"Air up to {here:g} °C; marked for {marked:g} °C.", remedy="A marking for that air.",
    )  # fmt: skip


_WORDS: Final = {
    Verdict.PASSES: "is cool enough beside what ignites at {0}.",
    Verdict.FAILS: "is too hot beside what ignites at {0}.",
    Verdict.CHECK: "is cool enough beside a gas that ignites at {0}, not beside every dust that does.",
}


def _code(sheet: Sheet, facts: Code, rules: RuleSet) -> str:
    code, ignites = str(facts.code), facts.ignites_c or 0.0
    most = hottest_c(code)
    if most is None:
        return f"{code} is no temperature code: T1 to T6, with letters in American marking, or T and the degrees."
    sheet.given("most", "Hottest surface", "θ_s", most, "°C", provenance=Provenance.TABLE,
                source=load("temperature_code").cite)  # fmt: skip
    sheet.given("ignites", "Ignites at", "θ_i", ignites, "°C")
    kinds = [kind for kind, _ in _KINDS] if facts.present is None else [facts.present]
    each = {kind: _surface(code, most, kind, ignites, rules) for kind in kinds}
    gate = over("code.present", "it being", kinds[0], each)
    sheet.gates.append(gate)
    if (air := _air(facts)) is not None:
        sheet.gates.append(air)
    said = f"{code}, {most:g} °C, {_WORDS[gate.verdict].format(f'{write(ignites, 3)} °C')}"
    return f"{said} Class, group and enclosure are judged on a circuit's place."


TOOLS: Final = (
    Tool(
        key="code",
        title="Temperature code against a material",
        purpose="Whether a surface may light what is there.",
        facts=Code,
        needs=("code", "ignites_c"),
        work=_code,
    ),
)
