"""What a conductor bears while a fault is being cleared: the adiabatic equation."""

from __future__ import annotations

from vinegate.core.protection.need import Need
from vinegate.core.protection.running import area_of
from vinegate.core.rules import RuleSet
from vinegate.core.tables import load


def withstand_k_s(need: Need, rules: RuleSet) -> float | None:
    """k·S of one conductor in A·√s, so that `t = (k·S/I)²`; of several sets one bears a fault near its origin alone.
    None without a tabulated size.

    IEC 60364-4-43:2008 434.4, table 43A; under NEC the k of ICEA P-32-382 for the insulation's temperatures.
    """
    wiring = need.circuit.wiring
    if wiring.size is None:
        return None
    usual = load("adiabatic_k").find(rules=rules.practice.adiabatic)
    insulation = getattr(wiring, rules.practice.insulation_field) or (usual["insulation"] if usual else "")
    row = load("adiabatic_k").find(rules=rules.practice.adiabatic, insulation=insulation)
    area = area_of(wiring.size)
    if row is None or area is None:
        return None
    return float(row[wiring.metal or "copper"]) * area
