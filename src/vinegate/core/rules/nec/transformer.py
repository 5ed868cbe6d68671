"""The device and the conductors ahead of a board's own transformer, by NFPA 70."""

from __future__ import annotations

from typing import Final

from vinegate.core.facts import Job
from vinegate.core.grade import Gate, at_most, breaks, changes, from_answer, meets, unknown
from vinegate.core.numbers import write, write_down
from vinegate.core.protection.feeder_parts import AS_LAID, PROTECTS, TRANSFORMER, Laid, rating_of
from vinegate.core.protection.ratings import next_up, standard_ratings
from vinegate.core.sheet import Sheet
from vinegate.core.supply.facts import Board
from vinegate.core.system_volts import per_line
from vinegate.core.working import Figure

_ALONE: Final = ((2.0, 3.0), (9.0, 1.67), (float("inf"), 1.25))
"""Below so many primary amperes, so many times them where no device stands behind it (table 450.3(B))."""
_NEXT_UP_FROM_A: Final = 9.0
_WITH_SECONDARY: Final = 2.5
_LARGEST_UP_A: Final = 800.0  # up to there the next rating up protects a conductor (240.4(B))
_SMALL: Final = {
    ("14 AWG", "copper"): 15.0,
    ("12 AWG", "copper"): 20.0,
    ("10 AWG", "copper"): 30.0,
    ("12 AWG", "aluminium"): 15.0,
    ("10 AWG", "aluminium"): 25.0,
}
"""Devices of small conductors, A (240.4(D))."""


def most_ahead(sheet: Sheet, job: Job, key: str, board: Board, volts: float) -> tuple[Figure, Figure]:
    """What table 450.3(B) lets a device alone be rated, and the primary current, at the `volts` ahead, it goes by."""
    root = per_line(job.volts_at(key) or volts) > 1
    kva = sheet.given(
        "kva", "Its transformer", "S", (board.transformer_power_va or 0.0) / 1000, "kVA",
        fact=f"{key}.transformer_power",
    )  # fmt: skip
    u = sheet.given("above", "Volts ahead of it", "U_p", volts, "V")
    primary = sheet.work(
        "primary", "Its primary current", "I_p", 1000 * kva.value / ((3**0.5 if root else 1.0) * u.value), "A",
        formula=f"1000·S/({'√3·' if root else ''}U_p)", inputs=(kva, u), source="definition",
    )  # fmt: skip
    times = next(times for below, times in _ALONE if primary.value < below)
    most = sheet.work(
        "most", "Device ahead of the transformer, not above", "D_f", times * primary.value, "A",
        formula=f"{times:g}·I_p", inputs=(primary,),
        source="NFPA 70:2023 table 450.3(B), protected at its primary alone",
    )  # fmt: skip
    return most, primary


def rating_ahead(most: Figure, primary: Figure) -> float:
    """The largest that may stand: from 9 A of primary current the next standard rating up (note 1)."""
    return next_up(most.value, standard_ratings(fuse=False)) if primary.value >= _NEXT_UP_FROM_A else most.value


def device_ahead(job: Job, key: str, most: float, primary_a: float) -> Gate:
    """Up to 250 % of its primary current where a device of 125 % protects its secondary too."""
    rating, name, source = rating_of(job, key), "Device ahead of the transformer", "NFPA 70:2023 table 450.3(B)"
    if rating is None:
        return unknown(TRANSFORMER, name, ("the rating of the device ahead of the board",))
    text = f"{rating:g} A, not above {write(most, 3)} A by its primary alone"
    if rating <= most + 1e-9:
        found = meets(f"{text}.", source)
    elif rating <= _WITH_SECONDARY * primary_a + 1e-9:
        found = changes(f"{text}; it will do where a device of 125 % stands at its secondary.", source)
    else:
        found = breaks(
            f"{text}, nor above {write(_WITH_SECONDARY * primary_a, 3)} A with one at its secondary.", source
        )
    return from_answer(TRANSFORMER, name, found, remedy=f"{write_down(most)} A at most.")


def conductors_ahead(job: Job, key: str, board: Board, laid: Laid | None) -> tuple[Gate, ...]:
    """They hang on no motor's device: the one ahead protects them, the next rating up from their ampacity at most."""
    rating, carries = rating_of(job, key), laid.ampacity(board.size) if laid is not None and board.size else None
    if rating is None or carries is None:
        return ()
    small = _SMALL.get((board.size or "", board.metal or "copper"), float("inf"))

    def most(share: float) -> float:
        amps = carries * share
        return min(next_up(amps, standard_ratings(fuse=False)) if amps <= _LARGEST_UP_A else amps, small)

    return (
        at_most(
            PROTECTS, "Device protects the feeder", rating, most(1.0), unit="A", rests=(AS_LAID,),
            sentence=f"{rating:g} A ahead of {board.size}, {write(most(1.0), 3)} A at most.",
            source="NFPA 70:2023 240.4(B), (D): ahead of a transformer 430.62 does not stand for it",
            room=lambda worse: most(worse) - rating, remedy="A larger feeder, or a smaller device.",
        ),
    )  # fmt: skip
