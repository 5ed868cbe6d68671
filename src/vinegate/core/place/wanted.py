"""The code string that the purchase needs: what to write on the order for a device in its area."""

from __future__ import annotations

from typing import Final

from vinegate.core.place.covers import groups_of, level_asked
from vinegate.core.place.ex_mark import ExMark, compose_ex
from vinegate.core.place.facts import Area
from vinegate.core.place.listing import Listed, compose_listing
from vinegate.core.place.temperature import Limit, coolest_needed
from vinegate.core.rules import RuleSet

# Types of protection usual for a device at each level, the plainest first.
_MOTOR: Final = {"Gb": (("eb",), ("db",)), "Gc": (("ec",), ("db",)), "Db": (("tb",),), "Dc": (("tc",),)}
_CONTACTS: Final = {"Gb": (("db", "eb"), ("db",)), "Gc": (("nC", "ec"), ("db",)), "Db": (("tb",),), "Dc": (("tc",),)}


def wanted(area: Area, device: str, limit: Limit | None, rules: RuleSet, ambient_c: float | None = None) -> str:
    """The marking to ask for; empty in an unclassified area."""
    if area.status == "division":
        return _listing(area, limit, rules)
    if area.status == "zone":
        return _zone(area, device, limit, rules, ambient_c)
    return ""


def _listing(area: Area, limit: Limit | None, rules: RuleSet) -> str:
    one = Listed(hazard_class=area.hazard_class or "", division=area.division or "", groups=groups_of(area))
    code = coolest_needed(limit, rules) if limit else None
    return compose_listing((one,), code or "")


def _zone(area: Area, device: str, limit: Limit | None, rules: RuleSet, ambient_c: float | None) -> str:
    level = level_asked(area)
    usual = (_MOTOR if device == "motor" else _CONTACTS).get(level)
    if usual is None:
        return f"nothing usual: {level} is hardly made for this device; move it"
    dust = level.startswith("D")
    temperature = ""
    if limit is not None:
        temperature = f"T{int(limit.most_c)} °C" if dust else coolest_needed(limit, rules) or ""
    american = rules.hazards.american_marks
    texts = [
        compose_ex(
            ExMark(
                american=american,
                zone=(area.zone or "") if american and not dust else "",
                types=types,
                group=area.group or "",
                temperature=temperature,
                level=level,
                ambient_c=(-20.0, ambient_c) if ambient_c is not None and ambient_c > 40 else None,
            )
        )
        for types in usual
    ]
    return " or ".join(texts)
