"""The figures there are, by their keys: `tables/figures.csv`, gathered by `tools/figures` from the stages."""

from __future__ import annotations

import re
from functools import cache
from typing import Final

from vinegate.core.tables import load

_NUMBER: Final = re.compile(r"(?<=_)\d+(?=_|$)")


def general(key: str) -> str:
    """A key with the numbers of boards, areas and steps left open.

    >>> general("supply.feeder_12_r"), general("machine.rotor_step_3"), general("machine.r1")
    ('supply.feeder_#_r', 'machine.rotor_step_#', 'machine.r1')
    """
    return _NUMBER.sub("#", key)


@cache
def declared(key: str) -> bool:
    """Whether a stage has a figure of this key."""
    return general(key) in _keys()


@cache
def _keys() -> frozenset[str]:
    return frozenset(row["key"] for row in load("figures").rows)
