"""Tables as XLSX: numbers as numbers, text as text, never a formula."""

from __future__ import annotations

import io
import re
from collections.abc import Iterable, Sequence
from typing import Any

_CONTROL = re.compile(r"[\x00-\x08\x0b\x0c\x0e-\x1f\ud800-\udfff]")
_LONGEST = 32_000


def xlsx(sheets: Iterable[tuple[str, Sequence[str], Iterable[Sequence[object]]]]) -> bytes:
    """Sheets of a title, heads and rows. Cells are numbers, text or None; text that looks like a formula stays text."""
    from openpyxl import Workbook
    from openpyxl.utils import get_column_letter

    book = Workbook(write_only=True)
    for title, heads, rows in sheets:
        sheet = book.create_sheet(re.sub(r"[\[\]:*?/\\]", " ", title)[:31])
        sheet.freeze_panes = "B2"
        for place, head in enumerate(heads, start=1):
            sheet.column_dimensions[get_column_letter(place)].width = max(12, min(len(head) + 4, 40))
        sheet.append([_cell(sheet, head, bold=True) for head in heads])
        for row in rows:
            sheet.append([_cell(sheet, value) for value in row])
    found = io.BytesIO()
    book.save(found)
    return found.getvalue()


def _cell(sheet: object, value: object, *, bold: bool = False) -> Any:
    from openpyxl.cell import WriteOnlyCell
    from openpyxl.styles import Font

    plain = _CONTROL.sub("", value)[:_LONGEST] if isinstance(value, str) else value
    cell = WriteOnlyCell(sheet, value=plain)
    if isinstance(plain, str):
        cell.data_type = "s"
    if bold:
        cell.font = Font(bold=True)
    return cell


def csv_cell(value: object) -> str:
    """A cell of a CSV: text that a spreadsheet would run is put behind an apostrophe.

    >>> csv_cell("=1+1"), csv_cell(-3.5), csv_cell("P-11")
    ("'=1+1", '-3.5', 'P-11')
    """
    if value is None:
        return ""
    if isinstance(value, str):
        text = _CONTROL.sub("", value)
        return f"'{text}" if text[:1] in ("=", "+", "-", "@", "\t", "\r") else text
    return f"{value:.10g}" if isinstance(value, float) else str(value)


def csv_text(rows: Iterable[Sequence[object]]) -> str:
    """Lines of quoted cells; nothing in them runs in a spreadsheet."""
    return "".join(
        ",".join(f'"{csv_cell(cell).replace(chr(34), chr(34) * 2)}"' for cell in row) + "\r\n" for row in rows
    )
