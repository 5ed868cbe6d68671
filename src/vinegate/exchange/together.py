"""Cells of schedules that say several facts at once: a cable with its cores and sets, a starter that reverses."""

from __future__ import annotations

import re
from typing import Final

from vinegate.core.field import SaidOfSeveral
from vinegate.core.numbers import QuantityError
from vinegate.core.protection.device_text import device_of
from vinegate.core.protection.facts import Protection
from vinegate.core.supply.cable import cable_of, one_size
from vinegate.core.supply.conduit import Lies, conduit_of
from vinegate.core.wiring.facts import Wiring
from vinegate.exchange.columns import kind_of_head, way_of_head
from vinegate.exchange.starter_text import starter_of

_HERTZ: Final = re.compile(r"(?:[/-]\s*[13]\s*(?:~|[Øøφ]|ph(?:ase)?)?\s*[/-]|V.*[\s,/-])\s*([56]0)\s*(?:hz)?\s*$", re.I)
"""Behind volts and phases: 460/3/60, 400 V 3~ 50 Hz."""
_PHASES: Final = re.compile(r"(\d{2,4}(?:[/-]\d{3,4})?)\s*V?\s*[/,-]\s*([13])\s*[-]?(?:~|[Øøφ]|ph(?:ase)?)?", re.I)
_KINDS: Final = {"1": "single-phase", "3": "three-phase"}

_YES: Final = ("y", "yes", "x", "✓", "✔", "true", "1")
_NO: Final = ("n", "no", "false", "0", "none")
_GROUND: Final = re.compile(r"\s*(?<=[\d\s²])(?:GND|grd|ground|EGC|G|PE|E|CPC)$", re.I)
_SETS: Final = re.compile(r"\(?(\d{1,2})\)?\s*(?:sets?|runs?|x|×|per phase)?", re.I)


def _answers(text: str) -> bool:
    return text.strip().casefold() in (*_YES, *_NO)


def _device(path: str, text: str, of_head: str, *, us: bool) -> dict[str, str]:
    """A rating, the kind of device beside it or in the head, and the switch that holds its fuses; empty where it says
    no more.
    """
    said, name = device_of(text, fused=path == "protection.disconnect"), "device_nec" if us else "device_iec"
    if said is None or (said.kind and not _reads(name, said.kind)):
        return {}
    kind = said.kind or ("" if said.fuses else of_head)
    found = {"protection.rating": said.rating, "protection.disconnect": said.switch, f"protection.{name}": kind}
    if path == "protection.disconnect" and not said.switch:
        return {path: said.rating} if not said.kind else {}
    return {fact: value for fact, value in found.items() if value}


def _reads(name: str, kind: str) -> bool:
    """Whether it is a kind of device; one that may be of several is asked back in its own cell."""
    try:
        Protection.fields()[name].read(kind)
    except SaidOfSeveral:
        pass
    except QuantityError:
        return False
    return True


def together(path: str, text: str, *, us: bool, head: str = "") -> dict[str, str]:
    """What a cell of this fact says, by path, its own first; empty where it says no more than its own. Its column's
    `head` may say a kind of device, or a way to start; an empty text is a no to that.

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
    if path == "start.method":
        way = way_of_head(head)
        return {path: way if text.strip().casefold() in _YES else ""} if way and _answers(text) else starter_of(text)
    if path == "plate.volts":
        hertz, phases = _HERTZ.search(text), _PHASES.fullmatch(text.strip())
        if phases is not None:
            return {path: f"{phases[1]} V", "plate.kind": _KINDS[phases[2]]}
        return {path: text, "plate.frequency": f"{hertz[1]} Hz"} if hertz is not None else {}
    if path in ("protection.rating", "protection.disconnect"):
        return _device(path, text, kind_of_head(head), us=us)
    if path == "wiring.ground_size":
        return {path: _GROUND.sub("", text)} if _GROUND.search(text) else {}
    if path == "wiring.sets":
        return {path: sets[1]} if (sets := _SETS.fullmatch(text.strip())) else {}
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
