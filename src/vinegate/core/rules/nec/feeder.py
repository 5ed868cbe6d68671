"""The feeder of a board with several motors, by NFPA 70."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final

from vinegate.core.facts import Job
from vinegate.core.grade import Answer, ruled
from vinegate.core.numbers import write
from vinegate.core.protection.feeder_parts import (
    AS_LAID,
    FeederParts,
    ampacity_gate,
    carries_gate,
    device_gate,
    feed_volts,
    other_a,
    rating_of,
)
from vinegate.core.protection.lines import Seen, Spread
from vinegate.core.protection.metals import of_metals, over_feeder
from vinegate.core.protection.ratings import next_down, next_up, standard_ratings
from vinegate.core.protection.sizing import table
from vinegate.core.rules.nec import transformer
from vinegate.core.rules.nec.conductors import Laid, area_cmil
from vinegate.core.sheet import Sheet
from vinegate.core.supply.facts import Board
from vinegate.core.tables import load
from vinegate.core.working import Figure


def feeder(
    sheet: Sheet, job: Job, key: str, parts: FeederParts, scaled: Sequence[Seen], spread: Spread
) -> tuple[Figure, Figure | None, str]:
    """430.24: 125 % of the largest motor and of continuous other load, and the rest."""
    largest, rest, other = parts
    volts = feed_volts(job, key) or 1.0
    lasting = sheet.given(
        "continuous", "Continuous part of it", "I_xc", other_a(job, key, volts, lasting=True), "A",
        source="entered; all of it where nothing is said",
    )  # fmt: skip
    need = sheet.work(
        "need", "Feeder carries at least", "I_f",
        1.25 * largest.value + rest.value + other.value + 0.25 * lasting.value, "A",
        formula="1.25·I_1+I_o+I_x+0.25·I_xc", inputs=(*parts, lasting), source="NFPA 70:2023 430.24",
    )  # fmt: skip
    board = job.board(key) if key != "main" else None
    if board is not None and board.transformer_power_va:
        most, advised = _ahead_of_transformer(sheet, job, key, board, volts)
    else:
        most, advised = _of_motors(sheet, job, key, (need, other), scaled, spread)
    sheet.notes.append(
        "Motors that are interlocked so that they cannot run together need not all be counted (430.24): say on the "
        "wiring's sheet of one for which it stands by."
    )
    if board is not None:
        sheet.gates[:0] = over_feeder(
            key, board, lambda one: (ampacity_gate(feeder_laid(one, need.value), one.size, need, spread),)
        )
    alone, source = largest.value + other.value, "no rule sets a least: a device carries its rating"
    sheet.gates += carries_gate(job, key, alone, alone + rest.value, spread, source)
    return need, most, advised


def _of_motors(
    sheet: Sheet, job: Job, key: str, asked: tuple[Figure, Figure], scaled: Sequence[Seen], spread: Spread
) -> tuple[Figure, str]:
    """430.62: the largest branch device and every other motor, interlocked or not, on the fullest line; (B) or what the
    feeder's conductors carry, where that is more than 430.24 asks.
    """
    need, other = asked
    first = max(scaled, key=lambda one: one.device_a)
    beside = sum(one.sizing_a for one in scaled) - first.sizing_a
    device = table(sheet, "largest_device", "Largest branch device", "D_1", first.device_a, "A", "NFPA 70:2023 430.52")
    less = table(sheet, "beside", "Motors beside its own", "I_b", beside, "A", "circuits of this board")
    most = sheet.work(
        "most", "Feeder device, not above", "D_f", device.value + less.value + other.value, "A",
        formula="D_1+I_b+I_x", inputs=(device, less, other), source="NFPA 70:2023 430.62(A)",
    )  # fmt: skip
    ratings = standard_ratings(fuse=False)
    rating, given = next_down(most.value, ratings), rating_of(job, key) or 0.0
    by_run = _by_conductors(job, key, need.value)
    clause = "(B): by the ampacity of its conductors" if by_run > rating else "(A)"

    def room(share: float = 1.0) -> float:
        return max(next_down(most.value - spread.off(share), ratings), by_run) - given

    rating = max(rating, by_run)
    sheet.gates.append(device_gate(job, key, rating, None, spread, f"NFPA 70:2023 430.62{clause}", room))
    return most, f"{rating:g} A"


def _by_conductors(job: Job, key: str, need_a: float) -> float:
    """430.62(B), 240.4: the device that conductors of more than the ampacity asked may have, as surely as they carry
    it; nought where they carry no more, or are not known.
    """
    board = job.board(key) if key != "main" else None
    laid = [feeder_laid(one, need_a) for one in of_metals(board)] if board is not None and board.size else []
    every = [amps for one in laid if one is not None and board and (amps := one.ampacity(board.size or ""))]
    carries = min(every, default=0.0) * AS_LAID.low
    if carries <= need_a:
        return 0.0
    ratings = standard_ratings(fuse=False)
    return next_up(carries, ratings) if carries <= _NEXT_UP_TO_A else next_down(carries, ratings)


_NEXT_UP_TO_A: Final = 800.0  # 240.4(B), (C)


def _ahead_of_transformer(sheet: Sheet, job: Job, key: str, board: Board, volts: float) -> tuple[Figure, str]:
    """450.3(B) and 240.4: behind a transformer no motor's device says what stands ahead of it."""
    most, primary = transformer.most_ahead(sheet, job, key, board, volts)
    rating = transformer.rating_ahead(most, primary)
    sheet.gates.append(transformer.device_ahead(job, key, rating, primary.value))
    sheet.gates += over_feeder(
        key, board, lambda one: transformer.conductors_ahead(job, key, one, feeder_laid(one, most.value))
    )
    return most, f"{write(rating, 3)} A"


def feeder_laid(board: Board | None, need_a: float) -> Laid | None:
    """How a board's feeder is taken to lie: nothing of it is asked. Terminals by 110.14(C)(1), its size too."""
    if board is None or board.size is None:
        return None
    return Laid(
        metal=board.metal or "copper",
        insulation=75,
        terminals=75 if need_a > 100 else 60,
        ambient=1.0,
        bundling=1.0,
        sets=board.sets or 1,
        marked=need_a > 100,
    )


def feeder_ground(board: Board, rating_a: float | None) -> Answer | None:
    """Table 250.122 by the device ahead of the feeder, never above its phase conductors (A)."""
    found = load("grounding_nec")
    row = next((row for row in found.rows if rating_a is not None and float(row["upto_a"]) >= rating_a), None)
    known = {one["size"] for one in load("ampacity_nec").rows}
    if row is None or board.ground_size not in known:
        return None
    asked = row[board.metal or "copper"]
    if board.size in known and area_cmil(asked) > area_cmil(board.size):
        asked = board.size
    text = f"{board.ground_size} behind {rating_a:g} A, {asked} asked."
    return ruled(area_cmil(board.ground_size) >= area_cmil(asked), text, found.cite)
