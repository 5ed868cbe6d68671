"""Kinds of machine, as plates name them, and the families that share a plate's layout and a way to compute."""

from __future__ import annotations

from enum import StrEnum
from typing import Final


class Family(StrEnum):
    """Machines that share a plate's layout."""

    CAGE = "cage"
    WOUND = "wound"
    SINGLE = "single"
    DC = "dc"


# Key, shown, family. The first is what a plate is taken to be that does not say.
_KINDS: Final = (
    ("cage", "three-phase cage", Family.CAGE),
    ("wound", "three-phase wound rotor", Family.WOUND),
    ("split-phase", "single-phase, split-phase", Family.SINGLE),
    ("capacitor-start", "single-phase, capacitor start", Family.SINGLE),
    ("capacitor-start-run", "single-phase, capacitor start and run", Family.SINGLE),
    ("permanent-split", "single-phase, permanent split capacitor", Family.SINGLE),
    ("shaded-pole", "single-phase, shaded pole", Family.SINGLE),
    ("universal", "single-phase, universal", Family.SINGLE),
    ("dc-shunt", "DC, shunt", Family.DC),
    ("dc-series", "DC, series", Family.DC),
    ("dc-compound", "DC, compound", Family.DC),
    ("dc-permanent", "DC, permanent magnet", Family.DC),
)
KINDS: Final = tuple((key, shown) for key, shown, _ in _KINDS)
KINDS_ALSO: Final[dict[str, str | tuple[str, ...]]] = {
    **dict.fromkeys(
        (
            "three-phase",
            "3-phase",
            "3ph",
            "3~",
            "squirrel cage",
            "induction",
            "three-phase induction",
            "asynchronous",
            "three-phase asynchronous",
        ),
        "cage",
    ),
    **dict.fromkeys(("wound rotor", "slip-ring", "slip rings"), "wound"),
    **{shown.partition(", ")[2]: key for key, shown, family in _KINDS if family is Family.SINGLE},
    **{f"{shown.partition(', ')[2]} DC": key for key, shown, family in _KINDS if family is Family.DC},
    **{f"DC {shown.partition(', ')[2]}": key for key, shown, family in _KINDS if family is Family.DC},
    **dict.fromkeys(("shunt", "shunt wound"), "dc-shunt"),
    "series wound": "dc-series",
    **dict.fromkeys(("compound", "compound wound"), "dc-compound"),
    "cap start": "capacitor-start",
    **dict.fromkeys(("capacitor start capacitor run", "cap start cap run"), "capacitor-start-run"),
    **dict.fromkeys(("PSC", "capacitor run"), "permanent-split"),
    "CSIR": "capacitor-start",
    "CSCR": "capacitor-start-run",
    "DC": tuple(key for key, _, family in _KINDS if family is Family.DC),
}
"""Other names that people write."""
_FAMILY: Final = {key: family for key, _, family in _KINDS}
_SHOWN: Final = dict(KINDS)

# Families with a rotating field of their own: poles, synchronous speed and slip mean something.
INDUCTION: Final = (Family.CAGE, Family.WOUND, Family.SINGLE)
THREE_PHASE: Final = (Family.CAGE, Family.WOUND)
# Kinds with a switch or relay that opens the starting winding, or brushes: parts that spark in normal work.


def family_of(kind: str | None) -> Family:
    """The family of a kind; a plate that does not say is a three-phase cage machine's."""
    return _FAMILY[kind or "cage"]


def shown(kind: str | None) -> str:
    """The kind in words."""
    return _SHOWN[kind or "cage"]


def has_poles(kind: str | None) -> bool:
    """Whether poles and slip follow from speed and frequency: not for commutator machines."""
    return family_of(kind) in INDUCTION and kind != "universal"


def volt_ampere_factor(kind: str | None) -> float:
    """√3 for three phases, 1 for single-phase and direct current: `S = factor·U·I`."""
    return 3**0.5 if family_of(kind) in THREE_PHASE else 1.0
