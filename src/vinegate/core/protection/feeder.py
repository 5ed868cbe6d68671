"""A board with several motors: what its feeder carries, and the most its device may be rated."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final, NamedTuple

from vinegate.core.facts import Job, RuleSetName
from vinegate.core.grade import Gate, Verdict, at_least, at_most, unknown, worst
from vinegate.core.protection.ratings import next_down, standard_ratings
from vinegate.core.protection.sizing import table
from vinegate.core.quantity import write
from vinegate.core.rules.iec.conductors import Laid as IecLaid
from vinegate.core.rules.nec.conductors import Laid as NecLaid
from vinegate.core.sheet import Sheet, Stage
from vinegate.core.supply.tree import board_name, path_to
from vinegate.core.turning import Taken
from vinegate.core.working import Figure


@dataclass(frozen=True, slots=True, kw_only=True)
class Member:
    """A circuit as its feeder sees it: the current that sizes it and its short-circuit device, in amperes."""

    tag: str
    board: str
    volts_v: float
    sizing_a: float
    device_a: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Feeder:
    """A board's feeder: its working and gates, the amperes it carries and the most its device may be rated."""

    key: str
    name: str
    tags: tuple[str, ...]
    stage: Stage
    need: Figure
    most: Figure | None
    advised: str

    @property
    def verdict(self) -> Verdict:
        return worst(self.stage.gates)


class _Seen(NamedTuple):
    """A circuit's amperes at the board's volts."""

    sizing_a: float
    device_a: float


def feeders(job: Job, members: Sequence[Member]) -> tuple[Feeder, ...]:
    """Every board with circuits, the main board first. A circuit counts on each board on its way."""
    found = []
    for key in ("main", *job.boards):
        here = [member for member in members if key == "main" or key in path_to(job, member.board)]
        volts = job.volts_at(key)
        if here and volts:
            found.append(_feeder(job, key, volts, here))
    return tuple(found)


def _feeder(job: Job, key: str, volts: float, members: Sequence[Member]) -> Feeder:
    name = board_name(job, key)
    sheet = Sheet("feeder", f"Feeder of {name}")
    scaled = sorted(
        (_Seen(m.sizing_a * m.volts_v / volts, m.device_a * m.volts_v / volts) for m in members), reverse=True
    )
    largest = table(sheet, "largest", "Largest motor", "I_1", scaled[0].sizing_a, "A", "circuits of this board")
    rest = table(
        sheet,
        "others",
        "All other motors",
        "I_o",
        sum(one.sizing_a for one in scaled[1:]),
        "A",
        "circuits of this board",
    )
    other = sheet.given(
        "load", "Other load", "I_x", _other_a(job, key, volts), "A", source="entered on the board, at its volts"
    )  # fmt: skip
    build = _nec if job.rules is RuleSetName.NEC else _iec
    need, most, advised = build(sheet, job, key, (largest, rest, other), scaled)
    return Feeder(
        key=key,
        name="main board" if name == "the board" else name,
        tags=tuple(member.tag for member in members),
        stage=sheet.close(),
        need=need,
        most=most,
        advised=advised,
    )


def _other_a(job: Job, key: str, volts: float, *, lasting: bool = False) -> float:
    """Line amperes of what else hangs on this board and on the boards behind it, three-phase; of it the `lasting`."""
    total = 0.0
    for place in ("main", *job.boards):
        if key in (place, "main") or key in path_to(job, place):
            board = job.main_board if place == "main" else job.board(place)
            whole = (board.load_power_va or 0.0) if board else 0.0
            part = board.continuous_power_va if board and lasting else None
            total += whole if part is None else min(part, whole)
    return total / (3**0.5 * volts)


_Parts = tuple[Figure, Figure, Figure]


def _nec(sheet: Sheet, job: Job, key: str, parts: _Parts, scaled: Sequence[_Seen]) -> tuple[Figure, Figure | None, str]:
    """430.24: 125 % of the largest motor and of continuous other load, and the rest.

    430.62: the largest device and the rest, next standard down.
    """
    largest, rest, other = parts
    volts = job.volts_at(key) or 1.0
    lasting = sheet.given(
        "continuous", "Continuous part of it", "I_xc", _other_a(job, key, volts, lasting=True), "A",
        source="entered; all of it where nothing is said",
    )  # fmt: skip
    need = sheet.work(
        "need", "Feeder carries at least", "I_f",
        1.25 * largest.value + rest.value + other.value + 0.25 * lasting.value, "A",
        formula="1.25·I_1+I_o+I_x+0.25·I_xc", inputs=(*parts, lasting), source="NFPA 70:2023 430.24",
    )  # fmt: skip
    first = max(scaled, key=lambda one: one.device_a)
    beside = sum(one.sizing_a for one in scaled) - first.sizing_a
    device = table(sheet, "largest_device", "Largest branch device", "D_1", first.device_a, "A", "NFPA 70:2023 430.52")
    less = table(sheet, "beside", "Motors beside its own", "I_b", beside, "A", "circuits of this board")
    most = sheet.work(
        "most", "Feeder device, not above", "D_f", device.value + less.value + other.value, "A",
        formula="D_1+I_b+I_x", inputs=(device, less, other), source="NFPA 70:2023 430.62(A)",
    )  # fmt: skip
    rating = next_down(most.value, standard_ratings(fuse=False))
    sheet.notes.append("Motors that are interlocked so that they cannot run together need not all be counted (430.24).")
    laid, size = _nec_laid(job, key, need.value)
    if key != "main":
        sheet.gates.append(_ampacity_gate(laid, size, need))
    sheet.gates.append(_device_gate(job, key, rating, None, "NFPA 70:2023 430.62(A)"))
    return need, most, f"{rating:g} A"


def _nec_laid(job: Job, key: str, need_a: float) -> tuple[NecLaid | None, str | None]:
    board = job.board(key)
    if board is None or board.size is None:
        return None, None
    laid = NecLaid(
        metal=board.metal or "copper",
        insulation=75,
        terminals=75 if need_a > 100 else 60,
        ambient=1.0,
        bundling=1.0,
        sets=board.sets or 1,
    )
    return laid, board.size


def _iec(sheet: Sheet, job: Job, key: str, parts: _Parts, scaled: Sequence[_Seen]) -> tuple[Figure, Figure | None, str]:
    """All motors at once, or the share of them that is stated; never below the largest."""
    del scaled
    largest, rest, other = parts
    board = job.main_board if key == "main" else job.board(key)
    said = board.simultaneity_pu if board is not None else None
    g = sheet.given(
        "diversity", "Simultaneity of the motors", "g", 1.0 if said is None else said, "",
        source="entered" if said is not None else "all at once, as nothing is said; IEC 61439-2:2020 takes 0.8",
    )  # fmt: skip
    together = g.value * (largest.value + rest.value)
    alone = together < largest.value
    need = sheet.work(
        "need", "Feeder carries at least", "I_f", max(together, largest.value) + other.value, "A",
        formula="I_1+I_x" if alone else "g·(I_1+I_o)+I_x", inputs=parts if alone else (g, *parts),
        source="IEC 60364-1:2005 311; never below the largest motor",
    )  # fmt: skip
    fed = job.board(key)
    if key != "main":
        laid = None
        if fed is not None and fed.size is not None:
            laid = IecLaid(
                metal=fed.metal or "copper", insulation="pvc", method="B2", ambient=1.0, grouping=1.0,
                sets=fed.sets or 1,
            )  # fmt: skip
        sheet.gates.append(_ampacity_gate(laid, fed.size if fed else None, need))
    sheet.gates.append(_device_gate(job, key, None, need.value, "IEC 60364-4-43:2008 433.1"))
    return need, None, f"≥ {write(need.value, 3)} A"


def _ampacity_gate(laid: NecLaid | IecLaid | None, size: str | None, need: Figure) -> Gate:
    """Insulation and laying of a feeder are not asked: assumed, and said."""
    carries = laid.ampacity(size) if laid is not None and size is not None else None
    if carries is None:
        return unknown("protection.feeder", "Feeder's ampacity", ("the feeder's size",))
    text = f"{size} carries about {write(carries, 3)} A, {write(need.value, 3)} A asked; how it is laid is not asked."
    as_laid = Taken(label="how it is laid", value=1.0, low=_LAID_WORSE, high=1.0)
    return at_least(
        "protection.feeder", "Feeder's ampacity", carries, need.value, sentence=text, source=need.source, unit="A",
        rests=(as_laid,), room=lambda worse: carries * worse - need.value,
        remedy="A larger feeder; check insulation, ambient and grouping.",
    )  # fmt: skip


_LAID_WORSE: Final = 0.8  # of the tabulated ampacity in warmer air and company; estimated


def _device_gate(job: Job, key: str, most: float | None, least: float | None, source: str) -> Gate:
    """The device ahead of the board, where it is given."""
    board = job.main_board if key == "main" else job.board(key)
    rating = board.device_a if board is not None else None
    name = "Device ahead of the board"
    if rating is None:
        return unknown("protection.feeder_device", name, ("the rating of the device ahead of the board",))
    key = "protection.feeder_device"
    if most is not None:
        text = f"{rating:g} A, not above {most:g} A."
        return at_most(key, name, rating, most, sentence=text, source=source, unit="A", remedy=f"{most:g} A at most.")
    assert least is not None
    text = f"{rating:g} A, {write(least, 3)} A simultaneous."
    return at_least(
        key, name, rating, least, sentence=text, source=source, unit="A", remedy=f"At least {write(least, 3)} A."
    )
