"""How a drawing looks on paper: the page's style sheets do not reach into it there, so it brings its own, in ink."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final

_FONT: Final = "font-family:'IBM Plex Sans',sans-serif"
_CHART: Final = (
    f"text{{{_FONT};font-size:11px;fill:#444;paint-order:stroke;stroke:#fff;stroke-width:3px}}"
    ".grid{stroke:#ddd}.ghost{fill:none;stroke:#999}.used{fill:none;stroke:#111;stroke-width:2.4}"
    ".speed{fill:none;stroke:#333;stroke-width:1.6;stroke-dasharray:6 4}"
    ".volts{fill:none;stroke:#333;stroke-dasharray:1.5 3}.beyond{fill:#f2f2f2}.limit{stroke:#111;stroke-width:1.4}"
    ".reached,.moment{stroke:#555;stroke-dasharray:2 3}.may{fill:#aaa;opacity:.45}.school{stroke:#555}"
    ".reached-dot{fill:#333}.acts{fill:#bbb}.rail{stroke:#999}.plumb{stroke:#555;stroke-dasharray:1 4}"
    ".line{fill:none;stroke:#111;stroke-width:1.4}.band{fill:#999;opacity:.25;stroke:none}"
    ".line.start{stroke-width:2.6}.line.first{stroke-dasharray:3 3}.line.damage{stroke-dasharray:9 4}"
    ".line.upstream{stroke:#777;stroke-dasharray:2 3}.line.fault{stroke:#999;stroke-dasharray:6 4}"
    ".stall{fill:#fff;stroke:#111;stroke-width:2}"
)
_CIRCUIT: Final = (
    f"text{{{_FONT};font-size:11px;fill:#444;stroke:none}}"
    ".name{fill:#000;font-weight:600}.number{font-size:10px}.pin{font-size:8px}"
    ".wire{fill:none;stroke:#000;stroke-width:1.2}.contact,.coil{fill:none;stroke:#000;stroke-width:1.6}"
    ".dot{fill:#000}.grid{fill:none;stroke:#777;stroke-dasharray:4 3}.leap{stroke:#000;stroke-width:3}"
)


def inked(drawing: str, classes: Sequence[str]) -> str:
    """The drawing with its styles as its first child: a circuit's symbols, or else a chart's lines."""
    begun, _, rest = drawing.partition(">")
    return f"{begun}><style>{_CIRCUIT if 'circuit-drawing' in classes else _CHART}</style>{rest}"
