"""The feeder of a board with several motors, by IEC 60364."""

from __future__ import annotations

from collections.abc import Sequence

from vinegate.core.facts import Job
from vinegate.core.grade import Answer, changes, meets
from vinegate.core.numbers import write
from vinegate.core.protection.feeder_parts import FeederParts, ampacity_gate, device_gate, protects_gate, rating_of
from vinegate.core.protection.lines import Seen, Spread
from vinegate.core.protection.metals import over_feeder
from vinegate.core.rules.iec.laid import Laid
from vinegate.core.rules.iec.sizes import area_mm2, next_size, protective_size
from vinegate.core.sheet import Sheet
from vinegate.core.supply.facts import Board
from vinegate.core.working import Figure


def feeder_laid(board: Board | None, need_a: float) -> Laid | None:
    """How a board's feeder is taken to lie: nothing of it is asked."""
    del need_a
    if board is None or board.size is None:
        return None
    return Laid(metal=board.metal or "copper", insulation="pvc", method="B2", ambient=1.0, grouping=1.0,
                sets=board.sets or 1)  # fmt: skip


def feeder(
    sheet: Sheet, job: Job, key: str, parts: FeederParts, scaled: Sequence[Seen], spread: Spread
) -> tuple[Figure, Figure | None, str]:
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
    alone, share_of = together < largest.value, 0.0 if together < largest.value else g.value
    need = sheet.work(
        "need", "Feeder carries at least", "I_f", max(together, largest.value) + other.value, "A",
        formula="I_1+I_x" if alone else "g·(I_1+I_o)+I_x", inputs=parts if alone else (g, *parts),
        source="IEC 60364-1:2005 311; never below the largest motor",
    )  # fmt: skip
    fed = job.board(key)
    if fed is not None:
        sheet.gates += over_feeder(
            key, fed, lambda one: (ampacity_gate(feeder_laid(one, need.value), one.size, need, spread, share_of),)
        )
        by_device = "IEC 60364-4-43:2008 433.1: I_n ≤ I_z"
        sheet.gates += over_feeder(
            key, fed, lambda one: protects_gate(job, key, feeder_laid(one, need.value), one.size, by_device)
        )
    given, source = rating_of(job, key) or 0.0, "IEC 60364-4-43:2008 433.1"

    def room(share: float = 1.0) -> float:
        return given - need.value + share_of * spread.off(share)

    sheet.gates.append(device_gate(job, key, None, need.value, spread, source, room))
    return need, None, f"≥ {write(need.value, 3)} A"


def feeder_ground(board: Board, rating_a: float | None) -> Answer | None:
    """Table 54.2 by the feeder's phase conductors; smaller only by the adiabatic equation, that is not worked here."""
    del rating_a
    if board.ground_size is None or board.size is None or "mm²" not in board.ground_size or "mm²" not in board.size:
        return None
    asked = next_size(protective_size(board.size)) or board.size
    text, cite = f"{board.ground_size} with {board.size}, {asked} by the table", "IEC 60364-5-54:2011 table 54.2"
    if area_mm2(board.ground_size) >= area_mm2(asked):
        return meets(f"{text}.", cite)
    return changes(f"{text}: less only where the adiabatic equation shows it (543.1.2).", cite)
