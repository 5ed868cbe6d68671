"""A row of the comparison: old, new, how it fits, what follows, and what must then be done."""

from __future__ import annotations

from collections.abc import Iterable
from enum import StrEnum
from typing import Final

from vinegate.core.grade import Gate, breaks, changes, from_answer, informs, meets, on_site, unknown
from vinegate.core.records import dataclass, replace
from vinegate.core.wording import inside


class Fits(StrEnum):
    """Best first; missing on either side is not known, never the same."""

    SAME = "same"
    WITH = "acceptable with"
    UNKNOWN = "not known"
    NOT = "not acceptable"


_ORDER: Final = (Fits.NOT, Fits.UNKNOWN, Fits.WITH, Fits.SAME)


@dataclass(frozen=True, slots=True, kw_only=True)
class Row:
    """One respect. `task` is what an accepted difference asks for; `needs` what is missing."""

    key: str
    name: str
    old: str
    new: str
    fits: Fits
    text: str
    source: str = ""
    task: str = ""
    needs: tuple[str, ...] = ()

    @property
    def why(self) -> str:
        """What was found, and what is missing."""
        lacking = f"To be known: {', '.join(self.needs)}." if self.needs else ""
        return f"{self.text} {lacking}".strip()

    @property
    def gates(self) -> list[Gate]:
        """As a gate of the sheet, that leaves the circuit as it stands alone; and its task for the checklist."""
        key = f"replacement.{self.key}"
        if self.fits is Fits.UNKNOWN:
            gate = unknown(key, self.name, self.needs or ("both plates",))
            return [informs(replace(gate, sentence=f"{self.text} {gate.sentence}".strip()))]
        if self.fits is Fits.NOT:
            remedy = self.task or "Another motor."
            return [informs(from_answer(key, self.name, breaks(self.text, self.source), remedy=remedy))]
        answer = changes(self.text, self.source) if self.fits is Fits.WITH else meets(self.text, self.source)
        found = [informs(from_answer(key, self.name, answer, remedy=self.task))]
        if self.task:
            found.append(from_answer(f"{key}_task", f"New motor: {inside(self.name)}", on_site(self.task, self.source)))
        return found


@dataclass(frozen=True, slots=True)
class Said:
    """What both plates say of one respect: its key, its name, the old text and the new one; empty where missing."""

    key: str
    name: str
    old: str
    new: str

    def put(
        self, *, fits: Fits, text: str, source: str = "", task: str = "", needs: tuple[str, ...] = ()
    ) -> Row:  # fmt: skip
        """The row, judged."""
        return Row(key=self.key, name=self.name, old=self.old, new=self.new, fits=fits, text=text, source=source,
                   task=task, needs=needs)  # fmt: skip

    def lacking(self, label: str) -> Row:
        """Missing on either side: not known, never the same."""
        both = (("the old plate's", self.old), ("the new plate's", self.new))
        sides = [side for side, value in both if not value] or [side for side, _ in both]
        return self.put(fits=Fits.UNKNOWN, text="", needs=tuple(f"{side} {label}" for side in sides))


def worst_of(rows: Iterable[Row]) -> Fits:
    """The worst wins; the same where nothing is compared.

    >>> worst_of([])
    <Fits.SAME: 'same'>
    """
    found = {row.fits for row in rows}
    return next((fits for fits in _ORDER if fits in found), Fits.SAME)
