"""Safe stall times: stated ones are points, the others assumed, with a band."""

from __future__ import annotations

from typing import Final

from vinegate.core.facts import Circuit
from vinegate.core.grade import Gate, check, ordered
from vinegate.core.numbers import write
from vinegate.core.plate.kind import Family
from vinegate.core.quantity import WATT_PER_HP
from vinegate.core.records import dataclass
from vinegate.core.sheet import Sheet
from vinegate.core.turning import Taken, Turns
from vinegate.core.working import Provenance

_STALL_S: Final = 12.0
_BAND_S: Final = (5.0, 40.0)  # of machines to 500 hp; estimated
_STALL_HP: Final = 500
_SOURCE: Final = "NEMA MG 1:2021 12.49 asks this of machines to 500 hp; the plate does not say that it is built so"
_OF_ONE_PHASE: Final = "as NEMA MG 1:2021 12.49 asks of three-phase machines; nothing asks it of single-phase ones"
_FAR_TIMES: Final = 4.0  # assumed
COLD_TIMES: Final = 1.2
"""Stall time from cold over that from hot, at least: usual limits lie 1.2 to 1.5 times apart; estimated."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Stalls:
    """From hot and from cold, with their bands; None where nothing can be said."""

    hot: Taken | None = None
    cold: Taken | None = None

    @property
    def hot_s(self) -> float | None:
        return self.hot.value if self.hot else None


def stall_times(sheet: Sheet, circuit: Circuit) -> Stalls:
    """Put them on the sheet. One stated alone bounds the other: a cold machine bears more than a hot one.

    None of direct current: its drive never lets the current flow that it would stand at.
    """
    if circuit.plate.family is Family.DC:
        return Stalls()
    facts, power_w = circuit.machine, circuit.plate.power_w
    for key, name, symbol, value in (
        ("stall_hot", "Safe stall time, hot", "t_hot", facts.stall_hot_s),
        ("stall_cold", "Safe stall time, cold", "t_cold", facts.stall_cold_s),
    ):
        if value is not None:
            said = circuit.source_of(f"machine.{key}")
            sheet.given(key, name, symbol, value, "s", provenance=said)
    hot, cold = facts.stall_hot_s, facts.stall_cold_s
    _agree(sheet, hot, cold)
    if hot is None:
        if power_w is None or power_w > _STALL_HP * WATT_PER_HP * 1.001:
            return Stalls()
        source = _OF_ONE_PHASE if circuit.plate.family is Family.SINGLE else _SOURCE
        sheet.given(
            "stall_hot", "Safe stall time, hot", "t_hot", _STALL_S, "s", provenance=Provenance.ASSUMED, source=source
        )
    low, high = (hot, hot) if hot is not None else _BAND_S
    if hot is None and cold is not None:
        high = min(high, cold)
        low = min(low, high)
    usual = COLD_TIMES * (hot or _STALL_S)
    return Stalls(
        hot=_taken("machine.stall_hot", "safe stall time from hot", hot, min(_STALL_S, high), low, high),
        cold=_taken(
            "machine.stall_cold", "safe stall time from cold", cold, usual, COLD_TIMES * low, COLD_TIMES * high
        ),
    )


def _agree(sheet: Sheet, hot: float | None, cold: float | None) -> None:
    """The two against each other, where both are stated."""
    sheet.gates += ordered(
        "machine.stalls", "Stall times agree", hot, cold, unit="s", source="a cold machine bears more than a hot one",
        sentence=f"From cold it bears {write(cold or 0.0, 3)} s, from hot {write(hot or 0.0, 3)} s.",
        remedy="Read its maker's data again.",
    )  # fmt: skip
    if hot is not None and cold is not None and cold > _FAR_TIMES * hot:
        sheet.gates.append(_far_apart(hot, cold))


def _far_apart(hot_s: float, cold_s: float) -> Gate:
    """From cold it has less than twice the rise to spare that it has from hot: more is a digit too many."""
    most = _FAR_TIMES * hot_s
    turns = Turns(
        path="machine.stall_cold", label="safe stall time from cold", passes=f"up to {write(most, 3)} s",
        passes_as=f"{write(0.99 * most, 3)} s",
    )  # fmt: skip
    text = (
        f"From cold it bears {write(cold_s, 3)} s, from hot {write(hot_s, 3)} s: {cold_s / hot_s:.1f} times as long; "
    )
    text += f"usual are 1.2 to 1.5. Passes for any {turns.label} {turns.passes}."
    return check("machine.stalls", "Stall times agree", turns, text, "heat at rest from either temperature",
                 remedy="Read its maker's data again.")  # fmt: skip


def _taken(path: str, label: str, given: float | None, usual: float, low: float, high: float) -> Taken:
    value = usual if given is None else given
    return Taken(
        path=path,
        label=label,
        unit="s",
        value=value,
        low=low if given is None else value,
        high=high if given is None else value,
        how="assumed" if given is None else "",
        given=given is not None,
    )
