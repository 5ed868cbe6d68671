"""The dip of the first moment against a limit."""

from __future__ import annotations

from typing import Final

from vinegate.core.grade import Gate, Verdict, at_most, resting, unknown
from vinegate.core.numbers import write
from vinegate.core.start.dip import StartPoint
from vinegate.core.start.first_moment import Moment
from vinegate.core.working import Figure

LIMIT: Final = "a dip limit"
_WYE_SHARE: Final = 1 / 3


def first_dip_gate(
    key: str, method: str, moment: Moment, point: StartPoint | None, limit: Figure | None, needs: tuple[str, ...]
) -> Gate:
    """At both ends of what is behind it; `needs` is what the moment lacks."""
    name = "Dip at the board"
    if limit is None:
        needs = (*needs, LIMIT)
    if point is None or limit is None or moment.sag is None:
        return unknown(key, name, needs or ("a way that this plate allows",))
    return _judged(key, method, moment, point, limit.value, limit.source)


def at_limit(moment: Moment, point: StartPoint, method: str, most_pct: float) -> Gate:
    """Had this been the limit. Raises ValueError where what the source bears is not known."""
    return _judged("start.dip", method, moment, point, most_pct, "")


def _judged(key: str, method: str, moment: Moment, point: StartPoint, most: float, source: str) -> Gate:
    value, sag = point.dip_board.value, moment.sag
    if sag is None:
        raise ValueError(key)
    share = 1.0 if point is moment.full else _WYE_SHARE
    return at_most(
        key, "Dip at the board", value, most, unit="%", source=source, rests=sag.rests,
        sentence=f"{method}: dip {value:.1f} % of {write(most, 3)} %.",
        room=lambda *facts: most - value * sag.deeper(facts, share),
        remedy="A start that draws less, a stiffer source, or a limit agreed with its owner.",
    )  # fmt: skip


def at_first_in_wye(wye: Gate, full: Gate) -> Gate:
    """The first moment is the least of such a start: what passes in it is to check where full voltage does not."""
    if wye.verdict is not Verdict.PASSES or full.verdict is Verdict.PASSES:
        return wye
    return resting(wye, "when it changes over to delta, which the load tells")
