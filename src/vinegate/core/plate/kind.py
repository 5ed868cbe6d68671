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


# Key, its own word, family. The first is what a plate is taken to be that does not say.
_KINDS: Final = (
    ("cage", "three-phase cage", Family.CAGE),
    ("wound", "three-phase wound rotor", Family.WOUND),
    ("split-phase", "split-phase", Family.SINGLE),
    ("capacitor-start", "capacitor start", Family.SINGLE),
    ("capacitor-start-run", "capacitor start and run", Family.SINGLE),
    ("permanent-split", "permanent split capacitor", Family.SINGLE),
    ("shaded-pole", "shaded pole", Family.SINGLE),
    ("universal", "universal", Family.SINGLE),
    ("dc-shunt", "shunt", Family.DC),
    ("dc-series", "series", Family.DC),
    ("dc-compound", "compound", Family.DC),
    ("dc-permanent", "permanent magnet", Family.DC),
)
START_CAPACITOR: Final = ("capacitor-start", "capacitor-start-run")
"""Kinds with a capacitor that a switch takes out on the way up."""
SWITCHED: Final = ("split-phase", *START_CAPACITOR)
"""Kinds whose start winding a switch takes out, once they turn."""
_BEFORE: Final = {Family.SINGLE: "single-phase, ", Family.DC: "DC, "}
KINDS: Final = tuple((key, _BEFORE.get(family, "") + word) for key, word, family in _KINDS)
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
            "squirrel-cage induction",
            "induction motor",
            "asynchronous motor",
            "AC three-phase",
            "AC 3-phase",
            "SCIM",
            "3Ø",
            "3",
        ),
        "cage",
    ),
    **dict.fromkeys(("wound rotor", "slip-ring", "slip rings"), "wound"),
    **{word: key for key, word, family in _KINDS if family is Family.SINGLE},
    **{f"{word} DC": key for key, word, family in _KINDS if family is Family.DC},
    **{f"DC {word}": key for key, word, family in _KINDS if family is Family.DC},
    **dict.fromkeys(("shunt", "shunt wound"), "dc-shunt"),
    "series wound": "dc-series",
    **dict.fromkeys(("compound", "compound wound"), "dc-compound"),
    "cap start": "capacitor-start",
    **dict.fromkeys(("capacitor start capacitor run", "cap start cap run"), "capacitor-start-run"),
    **dict.fromkeys(("PSC", "capacitor run"), "permanent-split"),
    "CSIR": "capacitor-start",
    "CSCR": "capacitor-start-run",
    **dict.fromkeys(
        ("1-phase", "1 phase", "one phase", "1ph", "1~", "1Ø", "1", "single-phase induction"),
        tuple(key for key, _, family in _KINDS if family is Family.SINGLE),
    ),
    "DC": tuple(key for key, _, family in _KINDS if family is Family.DC),
}
"""Other names that people write."""
_FAMILY: Final = {key: family for key, _, family in _KINDS}
_SHOWN: Final = dict(KINDS)
_WORD: Final = {key: word for key, word, _ in _KINDS}

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


def word(kind: str) -> str:
    """The kind's own word, without that of its family."""
    return _WORD[kind]


def has_poles(kind: str | None) -> bool:
    """Whether poles and slip follow from speed and frequency: not for commutator machines."""
    return family_of(kind) in INDUCTION and kind != "universal"


def volt_ampere_factor(kind: str | None) -> float:
    """√3 for three phases, 1 for single-phase and direct current: `S = factor·U·I`."""
    return 3**0.5 if family_of(kind) in THREE_PHASE else 1.0
