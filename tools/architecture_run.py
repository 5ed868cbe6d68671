"""Draws docs/architecture.svg from the imports as they are: the layers, and the stages of core in their order."""

from __future__ import annotations

import ast
import sys
from collections import Counter
from html import escape
from pathlib import Path
from typing import Final

ROOT: Final = Path(__file__).parents[1]
SOURCE: Final = ROOT / "src/vinegate"
_LAYERS: Final = (("cli", "serving", "rows"), ("web",), ("store", "exchange", "drawing", "typeset", "demo"), ("core",))
_BOX: Final = (118, 34)
_GAP: Final = 26


def imports(path: Path) -> list[str]:
    """Names of our own modules that a file imports."""
    found = []
    for node in ast.walk(ast.parse(path.read_text())):
        if isinstance(node, ast.ImportFrom) and node.module and node.module.startswith("vinegate"):
            found.append(node.module)
    return found


def edges(level: int, under: Path) -> Counter[tuple[str, str]]:
    """How often one part imports another: parts are names at this depth of the package."""
    found: Counter[tuple[str, str]] = Counter()
    for path in under.rglob("*.py"):
        parts = path.relative_to(SOURCE).with_suffix("").parts
        if len(parts) < level:
            continue
        for name in imports(path):
            other = name.split(".")[1:]
            if (
                len(other) >= level
                and other[: level - 1] == list(parts[: level - 1])
                and other[level - 1] != parts[level - 1]
            ):
                found[parts[level - 1], other[level - 1]] += 1
    return found


def box(x: float, y: float, size: tuple[float, float], name: str) -> str:
    width, height = size
    text = f'<text x="{x + width / 2}" y="{y + height / 2 + 5}">{escape(name)}</text>'
    return f'<rect x="{x}" y="{y}" width="{width}" height="{height}" rx="3"/>{text}'


def stroke(count: int, per: float) -> str:
    """The more imports, the thicker."""
    return f'stroke-width="{min(0.6 + count / per, 4):.1f}"'


def layers() -> tuple[list[str], float]:
    """The layers from above: who imports whom, with the number of imports."""
    width, height = _BOX
    where, shapes = {}, []
    for row, names in enumerate(_LAYERS):
        for column, name in enumerate(names):
            where[name] = (20 + column * (width + _GAP), 40 + row * (height + 44))
    found = edges(1, SOURCE)
    for (one, other), count in sorted(found.items()):
        if one in where and other in where:
            (x1, y1), (x2, y2) = where[one], where[other]
            ends = (x1 + width / 2, y1 + height, x2 + width / 2, y2)
            if y1 < y2:
                line = f"M{ends[0]} {ends[1]}L{ends[2]} {ends[3]}"
                shapes.append(f'<path d="{line}" {stroke(count, 40)}/>')
    shapes += [box(*where[name], _BOX, name) for name in where]
    return shapes, 40 + len(_LAYERS) * (height + 44)


def stages(top: float, order: list[str]) -> tuple[list[str], float]:
    """Core's stages in their order; an arc to each earlier one whose findings or facts a stage uses."""
    found, height, x = edges(2, SOURCE / "core"), 24, 20
    middle = {name: top + 36 + index * (height + 10) + height / 2 for index, name in enumerate(order)}
    shapes = [f'<text class="head" x="{x}" y="{top + 18}">core: the stages, each using only earlier ones</text>']
    for (one, other), count in sorted(found.items()):
        if one in middle and other in middle:
            a, b = middle[one], middle[other]
            reach = 14 + 0.32 * abs(a - b)
            right = x + 150
            line = f"M{right} {a}C{right + reach} {a} {right + reach} {b} {right} {b}"
            shapes.append(f'<path d="{line}" {stroke(count, 8)}/>')
    shapes += [box(x, y - height / 2, (150, height), name) for name, y in middle.items()]
    return shapes, top + 60 + len(order) * (height + 10)


def main() -> None:
    sys.path.insert(0, str(ROOT / "src"))
    from vinegate.core.stages import STAGES

    upper, top = layers()
    lower, bottom = stages(top, [stage.key for stage in STAGES])
    style = (
        "text{font:13px sans-serif;text-anchor:middle;fill:#1d2a29}.head{text-anchor:start;font-weight:600}"
        "rect{fill:#fffdf7;stroke:#1d2a29}path{fill:none;stroke:#a2461b;opacity:.7}"
    )
    ground = f'<rect x="0" y="0" width="620" height="{bottom:.0f}" style="fill:#f2efe6;stroke:none"/>'
    head = '<text class="head" x="20" y="24">Who imports whom, from above</text>'
    shapes = "".join((ground, head, *upper, *lower))
    view = f'viewBox="0 0 620 {bottom:.0f}" width="620"'
    svg = f'<svg xmlns="http://www.w3.org/2000/svg" {view}><style>{style}</style>{shapes}</svg>\n'
    (ROOT / "docs/architecture.svg").write_text(svg)


if __name__ == "__main__":
    main()
