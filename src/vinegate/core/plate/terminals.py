"""Which terminals are linked for a connection: NEMA T1 to T12 and IEC U1 to W2."""

from __future__ import annotations

from typing import Final

from vinegate.core.plate.volts import Connection, VoltsDesignation, Winding
from vinegate.core.records import dataclass

Group = tuple[str, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Links:
    """One way to link the terminals: what goes to each line, and what is joined and insulated."""

    name: str
    lines: tuple[Group, Group, Group]
    joined: tuple[Group, ...]
    source: str

    @property
    def terminals(self) -> tuple[str, ...]:
        """Every terminal used, in order of lines and joints."""
        return tuple(t for group in (*self.lines, *self.joined) for t in group)


_MG1: Final = "NEMA MG 1:2021 2.60 to 2.67"
_IEC: Final = "IEC 60034-8:2007"


def _t(*numbers: str) -> tuple[Group, ...]:
    """Groups of T numbers: `"1 7"` is (T1, T7)."""
    return tuple(tuple(f"T{number}" for number in group.split()) for group in numbers)


def _nema(name: str, lines: tuple[str, str, str], *joined: str) -> Links:
    one, two, three = _t(*lines)
    return Links(name=name, lines=(one, two, three), joined=_t(*joined), source=_MG1)


_SERIES: Final = ("4 7", "5 8", "6 9")
_THREE: Final = _nema("three leads", ("1", "2", "3"))
_SIX_DELTA: Final = _nema("delta", ("1 6", "2 4", "3 5"))
_SIX_WYE: Final = _nema("wye", ("1", "2", "3"), "4 5 6")
_NINE: Final = {
    ("low", "wye"): _nema("parallel wye", ("1 7", "2 8", "3 9"), "4 5 6"),
    ("high", "wye"): _nema("series wye", ("1", "2", "3"), *_SERIES),
    ("low", "delta"): _nema("parallel delta", ("1 6 7", "2 4 8", "3 5 9")),
    ("high", "delta"): _nema("series delta", ("1", "2", "3"), *_SERIES),
}
_TWELVE: Final = {
    ("low", "delta"): _nema("parallel delta", ("1 6 7 12", "2 4 8 10", "3 5 9 11")),
    ("low", "wye"): _nema("parallel wye, to start", ("1 7", "2 8", "3 9"), "4 5 6 10 11 12"),
    ("high", "delta"): _nema("series delta", ("1 12", "2 10", "3 11"), *_SERIES),
    ("high", "wye"): _nema("series wye, to start", ("1", "2", "3"), *_SERIES, "10 11 12"),
}
_IEC_STAR: Final = Links(name="star", lines=(("U1",), ("V1",), ("W1",)), joined=(("U2", "V2", "W2"),), source=_IEC)
_IEC_DELTA: Final = Links(name="delta", lines=(("U1", "W2"), ("V1", "U2"), ("W1", "V2")), joined=(), source=_IEC)
_IEC_THREE: Final = Links(name="three leads", lines=(("U1",), ("V1",), ("W1",)), joined=(), source=_IEC)


def links_for(
    designation: VoltsDesignation, connection: Connection, leads: int | None, *, nema: bool
) -> tuple[Links, ...]:
    """The ways that fit the connection in use; empty when leads and plate do not settle it.

    Nine NEMA leads do not say whether the windings are wye or delta inside: both are given, and the diagram on the
    motor decides. Twelve leads give the running delta first, then the wye to start in.
    """
    if not nema or Winding.NOT_SAID not in {c.winding for c in designation.connections}:
        return _iec(designation, connection, leads)
    if leads == 3:
        return (_THREE,)
    if leads == 6 and len(designation.connections) == 1:
        return (_SIX_DELTA, _SIX_WYE)
    if leads in (9, 12) and len(designation.connections) == 2:
        low = min(designation.connections, key=lambda c: c.low_v)
        level = "low" if connection == low else "high"
        table, order = (_NINE, ("wye", "delta")) if leads == 9 else (_TWELVE, ("delta", "wye"))
        return tuple(table[level, winding] for winding in order)
    return ()


def _iec(designation: VoltsDesignation, connection: Connection, leads: int | None) -> tuple[Links, ...]:
    if leads == 3:
        return (_IEC_THREE,)
    both = {c.winding for c in designation.connections} >= {Winding.DELTA, Winding.WYE}
    if not both and leads != 6:
        return ()
    if connection.winding is Winding.WYE:
        return (_IEC_STAR,)
    if connection.winding is Winding.DELTA:
        return (_IEC_DELTA, _IEC_STAR) if leads in (None, 6) else (_IEC_DELTA,)
    return ()
