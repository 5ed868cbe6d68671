"""What a stage puts on paper beside its working: tables of plain text, and pictures, kept with an issued plan."""

from __future__ import annotations

from vinegate.core.records import dataclass


@dataclass(frozen=True, slots=True, kw_only=True)
class PaperTable:
    """A table: head and rows of one length. `numbers` are the columns set right; `note` stands beside the title.

    `blank` names a last column left empty, to be filled by hand; empty where there is none.
    """

    stage: str
    title: str
    head: tuple[str, ...]
    rows: tuple[tuple[str, ...], ...]
    note: str = ""
    numbers: tuple[int, ...] = ()
    blank: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class PaperPicture:
    """A drawing as it was issued: its title and the SVG element that this program wrote."""

    title: str
    svg: str
