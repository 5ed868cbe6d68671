"""How many motors one drive feeds, and from how many phases: what is ahead of it carries them all."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from vinegate.core.drive.facts import LINE_AND_NEUTRAL, TWO_LINES, Drive
from vinegate.core.facts import Circuit
from vinegate.core.numbers import QuantityError


def _of(circuit: Circuit) -> Drive:
    return circuit.of("drive", Drive)


def motors_on(circuit: Circuit) -> int:
    """Motors alike on the circuit's drive, where it has or would have one; one where nothing is said."""
    return _of(circuit).motors or 1


def fed_by_one(circuit: Circuit) -> bool:
    """Whether the circuit's drive takes single-phase input: √3 times the amperes, there and back."""
    return _of(circuit).one_phase


def said_of_one(circuit: Mapping[str, Any]) -> bool:
    """The same of a circuit's texts, as far as they can be read."""
    said = (circuit.get("drive") or {}).get("phases")
    try:
        return bool(said) and Drive.fields()["phases"].taken(str(said), us=False) in (TWO_LINES, LINE_AND_NEUTRAL)
    except QuantityError:
        return False


def fed_to_neutral(circuit: Circuit) -> bool:
    """Whether that is a line and neutral."""
    return _of(circuit).phases == LINE_AND_NEUTRAL
