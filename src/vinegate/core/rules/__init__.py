"""What a rule set decides, behind one protocol, so that a third can be added without touching screens."""

from __future__ import annotations

from vinegate.core.facts import RuleSetName
from vinegate.core.rules.iec import Iec
from vinegate.core.rules.nec import Nec
from vinegate.core.rules.protocol import OverloadRange, RuleSet, RunFacts, RunImpedance, Words

__all__ = ["OverloadRange", "RuleSet", "RunFacts", "RunImpedance", "Words", "rule_set"]

_RULE_SETS: dict[RuleSetName, RuleSet] = {RuleSetName.NEC: Nec(), RuleSetName.IEC: Iec()}


def rule_set(name: RuleSetName) -> RuleSet:
    """The rule set of that name."""
    return _RULE_SETS[name]
