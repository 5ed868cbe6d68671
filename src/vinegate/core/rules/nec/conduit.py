"""The conduit of a run by NFPA 70 chapter 9: how much of it the wires fill, and the least that holds them."""

from __future__ import annotations

from functools import lru_cache
from typing import Final

from vinegate.core.grade import Gate, at_most, confirm, over, rule
from vinegate.core.numbers import write
from vinegate.core.protection.lines import ways_of
from vinegate.core.protection.need import Device, Need
from vinegate.core.records import dataclass, replace
from vinegate.core.sheet import Sheet
from vinegate.core.start.way import Windings
from vinegate.core.supply.conduit import CONDUITS, COVERINGS, fits, kinds_of
from vinegate.core.tables import load
from vinegate.core.turning import Taken
from vinegate.core.working import Provenance

_KEY: Final = "protection.conduit"
_KINDS: Final = dict(CONDUITS)
_WIRES: Final = dict(COVERINGS)
_NAME: Final = "Room in the conduit"
_RULE: Final = "NFPA 70:2023 chapter 9 table 1"
_MADE_OF: Final = "NFPA 70:2023 articles 342 to 358"
_WITH_GROUND: Final = "NFPA 70:2023 chapter 9 table 1, note 3"
_PERCENT: Final = 40.0
"""Of more than two wires: a circuit's have a grounding conductor beside them."""
_ALMOST_ONE: Final = 0.2
"""Of wires that are all alike, a part of 0.8 counts as one more (note 7)."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Wires:
    """What lies in one conduit: `own` wires of this circuit and its grounding conductor, beside `others`."""

    size: str
    ground: str
    own: int
    others: int

    def area(self, covering: str, own: float | None = None) -> float:
        """Square inches of this circuit's wires (table 5)."""
        found, each = load("wire_nec"), self.own if own is None else own
        rows = [found.find(size=size) for size in (self.size, self.ground)]
        wire, ground = (float(row[covering]) if row is not None else 0.0 for row in rows)
        return each * wire + ground

    def allowed(self, inside: float, covering: str, own: float | None = None) -> float:
        """Square inches that may be filled of so many inside: table 1, or as table 4 prints it; more by note 7 where
        that alone lets the last of wires in that are all alike.
        """
        by_share, area = _PERCENT / 100 * inside, self.area(covering, own)
        by_table = max(by_share, round(by_share, 3))
        wire = load("wire_nec").find(size=self.size)
        alike = wire is not None and self.size == self.ground and not self.others
        by_note = by_table + (_ALMOST_ONE * float(wire[covering]) if wire is not None and alike else 0.0)
        return next((most for most in (by_share, by_table, by_note) if area <= most), by_share)

    def fills(self, trade: str, kind: str, covering: str) -> bool:
        inside = _inside(trade, kind)
        return inside is not None and self.area(covering) <= self.allowed(inside, covering) + 1e-9


@lru_cache(maxsize=128)
def _inside(trade: str, kind: str) -> float | None:
    """Square inches inside; None where it is not made in that size (table 4)."""
    found = load("conduit_nec")
    row = found.find(trade=trade)
    return found.number(row, kind) if row is not None else None


def conduit(sheet: Sheet, need: Need, size: str | None, ground: str) -> Device | None:
    """Its row; None where no conduit is said, or what lies in it is not known."""
    wiring = need.circuit.wiring
    said = wiring.conduit or wiring.conduit_kind or wiring.raceway
    wires, tabulated = _wires(need, size or "", ground), load("wire_nec")
    if not said or tabulated.find(size=size or "") is None or tabulated.find(size=ground) is None:
        return None
    kinds = (wiring.conduit_kind,) if wiring.conduit_kind else kinds_of(wiring.raceway)
    coverings = (wiring.covering,) if wiring.covering else tuple(_WIRES)
    advised = None if wires.others else _advised(wires, kinds, coverings)
    chosen = wiring.conduit or advised
    if chosen is None:
        return None
    _worked(sheet, need, wires, chosen, kinds[0], coverings[0])
    return Device(
        key="conduit",
        name="Conduit",
        current=None,
        rule=f"{_RULE}{', each' if (wiring.sets or 1) > 1 else ''}{_as_far(need)}",
        asked=f"≥ {_shown(advised)}" if advised else "–",
        advised=_shown(advised) if advised else "–",
        chosen=f"{_shown(chosen)}{f' {_KINDS[kinds[0]]}' if len(kinds) == 1 else ''}",
        gates=(*_gates(need, wires, chosen, kinds, coverings), *_twice(need)),
        path="wiring.conduit",
        take=_shown(advised) if advised and advised != wiring.conduit else "",
    )


def _as_far(need: Need) -> str:
    """Six wires lie behind the starter of halves and of windings in wye: they are another conduit's."""
    return ", board to starter" if need.way.windings in (Windings.WYE, Windings.HALF) else ""


def _wires(need: Need, size: str, ground: str) -> Wires:
    """Its own in one conduit: a set in each, or as many sets as lie together; all beyond them are others'."""
    wiring, each = need.circuit.wiring, _each(need)
    together = wiring.grouped or each
    own = each * max(1, min(wiring.sets or 1, together // each))
    return Wires(size=size, ground=ground, own=own, others=max(0, together - own))


def _each(need: Need) -> int:
    """Wires of one set that carry current."""
    return ways_of(need) + need.neutral


@lru_cache(maxsize=512)
def _advised(wires: Wires, kinds: tuple[str, ...], coverings: tuple[str, ...]) -> str | None:
    """The least that holds them, whatever is not said of its kind and of the wire."""
    every = [(kind, covering) for kind in kinds for covering in coverings]
    trades = (row["trade"] for row in load("conduit_nec").rows)
    return next((trade for trade in trades if all(wires.fills(trade, *one) for one in every)), None)


def _worked(sheet: Sheet, need: Need, wires: Wires, trade: str, kind: str, covering: str) -> None:
    """The wires' area, and the share of the conduit that they fill."""
    wiring, wire_table = need.circuit.wiring, load("wire_nec")
    row, grounds = wire_table.find(size=wires.size), wire_table.find(size=wires.ground)
    inside = _inside(trade, kind)
    if row is None or grounds is None or inside is None:
        return
    said = Provenance.TABLE if wiring.covering else Provenance.ASSUMED
    name, of_sets = "Wires in the conduit beside its grounding conductor", "its phases, of each set that lies there"
    count = sheet.given("conduit_count", name, "n", wires.own, "", source=of_sets)
    each, ground = (
        sheet.given(key, title, symbol, float(row[covering]), "in²", provenance=said,
                    source=f"{wire_table.cite}, {row['size']} {_WIRES[covering]}")
        for key, title, symbol, row in (
            ("wire_area", "Area of one of its wires", "a", row),
            ("ground_area", "Area of its grounding conductor", "a_g", grounds),
        )
    )  # fmt: skip
    area = sheet.work("wires_area", "Wires in the conduit", "A_w", wires.area(covering), "in²",
                      formula="n·a+a_g", inputs=(count, each, ground), source=_WITH_GROUND)  # fmt: skip
    within = sheet.given(
        "conduit_inside", "Inside of the conduit", "A_i", inside, "in²",
        provenance=Provenance.TABLE if wiring.conduit_kind else Provenance.ASSUMED,
        source=f"{load('conduit_nec').cite}, {_shown(trade)} {_KINDS[kind]}",
    )  # fmt: skip
    sheet.work("conduit_fill", "The conduit is filled to", "p_f", 100 * area.value / within.value, "%",
               formula="100·A_w/A_i", inputs=(area, within), source=_RULE)  # fmt: skip


def _gates(
    need: Need, wires: Wires, trade: str, kinds: tuple[str, ...], coverings: tuple[str, ...]
) -> tuple[Gate, ...]:
    """Over its kind and the wire's type, where they are not said; the kind alone is told where it settles it."""
    every = {kind: {_WIRES[one]: _gate(need, wires, trade, kind, one) for one in coverings} for kind in kinds}
    usual = _WIRES[coverings[0]]
    by_wire = {kind: over("wiring.covering", "wire type", usual, gates) for kind, gates in every.items()}
    if len({gate.verdict for gate in by_wire.values()}) == 1:
        return (by_wire[kinds[0]],)
    told = {_KINDS[kind]: replace(gate, sentence=every[kind][usual].sentence) for kind, gate in by_wire.items()}
    return (over("wiring.conduit_kind", "conduit of", _KINDS[kinds[0]], told),)


def _gate(need: Need, wires: Wires, trade: str, kind: str, covering: str) -> Gate:
    inside, entered = _inside(trade, kind), need.circuit.wiring.conduit is not None
    what = f"{_shown(trade)} {_KINDS[kind]}"
    if inside is None:
        return rule(_KEY, _NAME, False, f"{what} is not made.", load("conduit_nec").cite, remedy="RMC or PVC.")
    filled, most = (100 * area / inside for area in (wires.area(covering), wires.allowed(inside, covering)))
    said = f"{wires.own} × {wires.size} and {wires.ground} fill {write(filled, 3)} % of {what}"
    if wires.others and filled <= most:
        text = f"{said}; with the {wires.others} others no more than {write(most, 3)} % in all."
        return confirm(_KEY, _NAME, False, text, _RULE)
    if not entered and (least := _advised(wires, (kind,), (covering,))) not in (None, trade):
        said += f" ({_shown(least or trade)} will do of {_WIRES[covering]} in {_KINDS[kind]})"
    rests = (_together(need),) if entered and need.circuit.wiring.grouped is None else ()

    def room(own: float = wires.own) -> float:
        return 100 * (wires.allowed(inside, covering, own) - wires.area(covering, own)) / inside

    return at_most(
        _KEY, _NAME, filled, most, sentence=f"{'' if entered else 'As advised: '}{said}, {write(most, 3)} % allowed.",
        source=_RULE, unit="%", rests=rests, room=room, remedy=_remedy(wires, trade, kind, covering),
    )  # fmt: skip


def _remedy(wires: Wires, trade: str, kind: str, covering: str) -> str:
    least = _advised(wires, (kind,), (covering,))
    if least == trade:
        return ""
    return f"At least {_shown(least)}." if least else "More conduits, a set in each."


def _together(need: Need) -> Taken:
    each = float(_each(need))
    return Taken(path="wiring.grouped", label="loaded conductors together", value=each, low=each, high=2 * each,
                 how="assumed", whole=True)  # fmt: skip


def _twice(need: Need) -> tuple[Gate, ...]:
    """A kind that no conduit of the material beside it is."""
    wiring = need.circuit.wiring
    if fits(wiring.raceway, wiring.conduit_kind):
        return ()
    text = f"{_KINDS[wiring.conduit_kind or '']} is no conduit of {wiring.raceway}: one of the two is otherwise."
    return (
        rule("protection.conduit_kind", "Conduit said twice", False, text, _MADE_OF, remedy="See what lies there."),
    )


def _shown(trade: str) -> str:
    return f"{trade.replace('-', ' ')} in"
