"""Every single question, in the order in which they are listed."""

from __future__ import annotations

from typing import Final

from vinegate.core.quick import line, shaft, temperature, volts
from vinegate.core.quick.tool import Tool

TOOLS: Final[dict[str, Tool]] = {
    tool.key: tool for tool in (*line.TOOLS, *volts.TOOLS, *shaft.TOOLS, *temperature.TOOLS)
}
