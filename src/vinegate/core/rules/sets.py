"""The rule sets there are: the only place that knows them all."""

from __future__ import annotations

from typing import Final

from vinegate.core.rules.iec import Iec
from vinegate.core.rules.nec import Nec
from vinegate.core.rules.protocol import RuleSet

RULE_SETS: Final[dict[str, RuleSet]] = {one.name: one for one in (Nec(), Iec())}
"""By name. A further one is added here alone."""


def rule_set(name: str) -> RuleSet:
    """The rule set of that name. Raises KeyError."""
    return RULE_SETS[name]
