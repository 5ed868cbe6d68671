"""The overload's sheet."""

from __future__ import annotations

from vinegate.web.stages.page import Page
from vinegate.web.stages.protection import BESIDE, answer, device_rows
from vinegate.web.stages.protection.devices import OVERLOAD

PAGE = Page(key="overload", asks=OVERLOAD, context=device_rows, answer=answer, beside=BESIDE)
