"""Loads whose torque is no power of speed, as points: constant power, and a pump against a static head."""

from __future__ import annotations

from collections.abc import Callable
from typing import Final

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.load import pump
from vinegate.core.load.facts import Load
from vinegate.core.load.points import LoadPoints
from vinegate.core.sheet import Sheet
from vinegate.core.working import Figure, Provenance

_SPEEDS: Final = np.linspace(0.0, 2.5, 126)
_CONSTANT_FROM: Final = 0.5


def curve_of(sheet: Sheet, facts: Load) -> LoadPoints | None:
    """The torque of such a load, a share of that at full speed; None for one that is a power of speed."""
    make = _KINDS.get(facts.kind or "")
    if make is None:
        return None
    torque = make(sheet, facts)
    return LoadPoints(tuple(_SPEEDS.tolist()), tuple(torque.tolist()))


def _constant_power(sheet: Sheet, facts: Load) -> Array:
    """`T = T_L/n` from the speed at which power is constant; below it the torque of that speed."""
    given = facts.constant_from_pu
    corner = sheet.given(
        "constant_from", "Power constant from, of full speed", "n_c", 100 * (given or _CONSTANT_FROM), "%",
        provenance=Provenance.STATED if given else Provenance.ASSUMED,
        source="entered" if given else "a range of two to one, as usual of winders",
    )  # fmt: skip
    return np.asarray(1 / np.maximum(_SPEEDS, corner.value / 100))


def static_of(facts: Load) -> float:
    """Static head, of that at duty; none where it is not said."""
    return facts.static_pu or 0.0


def shutoff_of(facts: Load) -> float:
    """Shut-off head, of that at duty; always above the static one, else the pump would not lift at all."""
    return max(facts.shutoff_pu or pump.USUAL_SHUT_OFF, 1.02)


def _static_pump(sheet: Sheet, facts: Load) -> Array:
    if facts.static_pu is None:
        sheet.needs([("load.static", "the static head")], "speed, flow and power of the pump")
    else:
        _lifting(sheet, facts)
    return pump.torque_at(_SPEEDS, static_of(facts), shutoff_of(facts))


def _lifting(sheet: Sheet, facts: Load) -> Figure:
    static = sheet.given("static", "Static head, of that at duty", "H_st", 100 * static_of(facts), "%")
    given = facts.shutoff_pu
    shutoff = sheet.given(
        "shutoff", "Shut-off head, of that at duty", "H_0", 100 * shutoff_of(facts), "%",
        provenance=Provenance.STATED if given else Provenance.ASSUMED,
        source="entered" if given else "usual of radial pumps",
    )  # fmt: skip
    return sheet.work(
        "lifts_from", "It lifts from, of full speed", "n_0",
        100 * pump.least_speed(static.value / 100, shutoff.value / 100), "%",
        formula="100·√(H_st/H_0)", inputs=(static, shutoff), source="shut-off head goes with the square of speed",
    )  # fmt: skip


_KINDS: Final[dict[str, Callable[[Sheet, Load], Array]]] = {
    "constant-power": _constant_power,
    "pump-static": _static_pump,
}
