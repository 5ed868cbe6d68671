"""The new plate by itself: what does not add up on it is compared with nothing."""

from __future__ import annotations

from vinegate.core.grade import Verdict
from vinegate.core.replacement.fits import Fits, Row, Said
from vinegate.core.replacement.pair import Pair


def own_row(pair: Pair) -> Row | None:
    """None where the plate adds up; else what fails on it first, or the fact that would settle it."""
    if not pair.new.odd:
        return None
    worst = min(pair.new.odd, key=lambda gate: gate.verdict is not Verdict.FAILS)
    row = Said("own_plate", "The new plate itself", "", "")
    if worst.verdict is Verdict.FAILS:
        return row.put(fits=Fits.NOT, text=worst.sentence, source=worst.source, task=worst.remedy)
    return row.put(fits=Fits.UNKNOWN, text=worst.sentence, needs=("the new plate, read again",))
