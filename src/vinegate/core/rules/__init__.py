"""What a rule set decides, behind one protocol. `sets.py` lists those there are."""

from __future__ import annotations

from vinegate.core.rules.protocol import (
    Drives,
    Hazards,
    OverloadRange,
    Papers,
    Practice,
    RuleSet,
    RunFacts,
    RunImpedance,
    Words,
)

__all__ = ["Drives", "Hazards", "OverloadRange", "Papers", "Practice", "RuleSet", "RunFacts", "RunImpedance", "Words"]
