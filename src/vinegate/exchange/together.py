"""Cells of schedules that say several facts at once: a cable with its cores and sets, a starter that reverses."""

from __future__ import annotations

import re
from typing import Final

from vinegate.core.field import SaidOfSeveral
from vinegate.core.numbers import QuantityError
from vinegate.core.protection.facts import Protection
from vinegate.core.supply.cable import cable_of, one_size
from vinegate.core.supply.conduit import Lies, conduit_of
from vinegate.core.wiring.facts import Wiring

_REVERSES: Final = re.compile(
    r"(?:combination[\s-]*)?(?:FVR|RDOL|reversing[\s-]*(?:DOL|FVNR|full[\s-]*voltage)|(?:DOL|full[\s-]*voltage|FV)[\s,(-]*revers(?:ing|es)\)?)",
    re.I,
)


_HERTZ: Final = re.compile(r"(?:[/-]\s*[13]\s*(?:~|[Øøφ]|ph(?:ase)?)?\s*[/-]|V.*[\s,/-])\s*([56]0)\s*(?:hz)?\s*$", re.I)
"""Behind volts and phases: 460/3/60, 400 V 3~ 50 Hz."""
_DEVICE: Final = re.compile(
    r"(?P<ahead>[A-Za-z][A-Za-z -]*?)?\s*(?P<amps>\d+(?:[.,]\d+)?\s*A(?:mps?)?)\s*(?P<behind>[A-Za-z][\w -]*)?", re.I
)
_SHORT: Final = {
    "td": "time-delay fuse",
    "tdf": "time-delay fuse",
    "ntd": "non-time-delay",
    "fuse": "",
    "fuses": "",
    "cb": "breaker",
}
"""What a schedule calls a device, where its field calls it otherwise; a fuse alone may be of any kind."""


def _device(path: str, text: str, *, us: bool) -> dict[str, str]:
    """A rating and the kind of device beside it; empty where the word is none of a kind."""
    said = _DEVICE.fullmatch(text.strip())
    word = ((said["ahead"] or "") + " " + (said["behind"] or "")).strip() if said else ""
    if said is None or not word:
        return {}
    kind, name = _SHORT.get(word.casefold(), word), "device_nec" if us else "device_iec"
    if not kind:
        return {path: said["amps"]}
    try:
        Protection.fields()[name].read(kind)
    except SaidOfSeveral:
        pass  # asked back in its own cell
    except QuantityError:
        return {}
    return {path: said["amps"], f"protection.{name}": kind}


def together(path: str, text: str, *, us: bool) -> dict[str, str]:
    """What a cell of this fact says, by path, its own first; empty where it says no more than its own.

    >>> together("wiring.size", "2x(3x95) Cu XLPE", us=False)
    {'wiring.size': '95 mm²', 'wiring.sets': '2', 'wiring.metal': 'copper', 'wiring.insulation_iec': 'XLPE'}
    >>> together("start.method", "FVR", us=True), together("wiring.size", "35 mm²", us=False)
    ({'start.method': 'full-voltage', 'start.reversing': 'yes'}, {})
    >>> together("plate.volts", "460/3/60", us=True), together("plate.volts", "230/460", us=True)
    ({'plate.volts': '460/3/60', 'plate.frequency': '60 Hz'}, {})
    >>> together("protection.rating", "63 A gG", us=False)
    {'protection.rating': '63 A', 'protection.device_iec': 'gG'}
    >>> together("wiring.conduit", '1-1/4" EMT', us=True), together("wiring.conduit", "2 in", us=True)
    ({'wiring.conduit': '1-1/4', 'wiring.conduit_kind': 'emt'}, {})
    """
    if path == "start.method" and _REVERSES.fullmatch(text.strip()):
        return {path: "full-voltage", "start.reversing": "yes"}
    if path == "plate.volts":
        hertz = _HERTZ.search(text)
        return {path: text, "plate.frequency": f"{hertz[1]} Hz"} if hertz is not None else {}
    if path == "protection.rating":
        return _device(path, text, us=us)
    if path in ("wiring.conduit", "wiring.conduit_kind", "wiring.raceway"):
        return _conduit(path, text)
    return _cable(path, text, us=us) if path == "wiring.size" else {}


def _conduit(path: str, text: str) -> dict[str, str]:
    """A trade size and the kind behind it; empty where no more is said than the cell's own fact."""
    try:
        lies = conduit_of(text)
    except QuantityError:
        return {}
    said = _lies_in(lies)
    return said if len(said) > 1 or path not in said else {}


def _lies_in(lies: Lies) -> dict[str, str]:
    said = {"wiring.conduit": lies.trade, "wiring.conduit_kind": lies.kind, "wiring.raceway": lies.raceway}
    return {fact: text for fact, text in said.items() if text}


def _cable(path: str, text: str, *, us: bool) -> dict[str, str]:
    """A run's size, and what else its text says of it; empty where that is all."""
    try:
        cable = cable_of(text, lambda one: one_size(one, us=us))
    except QuantityError:
        return {}
    if cable.alone:
        return {}
    covering = us and Wiring.fields()["covering"].reads(cable.cover)
    said = {
        path: cable.size, "wiring.sets": str(cable.sets) if cable.sets > 1 else "", "wiring.ground_size": cable.ground,
        "wiring.metal": cable.metal, f"wiring.insulation{'' if us else '_iec'}": cable.cover,
        "wiring.covering": cable.cover if covering else "",
    }  # fmt: skip
    return {fact: value for fact, value in said.items() if value} | _lies_in(cable.lies)
