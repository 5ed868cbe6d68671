"""The wiring's sheet."""

from __future__ import annotations

from vinegate.web.stages.page import Page
from vinegate.web.stages.protection import BESIDE, answer, device_rows

PAGE = Page(key="wiring", asks=("wiring",), context=device_rows, answer=answer, beside=BESIDE)
