"""Residuals of the machine fit over 1 to 500 hp and 0.75 to 375 kW, 2 to 8 poles, designs A to D and N."""

from __future__ import annotations

import argparse
import sys
from pathlib import Path

sys.path.insert(0, str(Path(__file__).parents[1]))

from tests.core.test_machine_fit import IEC, NEMA, catalogue

from vinegate.core.machine.fit import Fit, fit
from vinegate.drawing.scene import Circle, Scene, Shape, Text, svg_file
from vinegate.drawing.scene import Path as Line

MOST_ROWS = 15
FIGURES = ("locked_rotor_torque", "breakdown_torque")


def main() -> None:
    parser = argparse.ArgumentParser()
    parser.add_argument("--svg", type=Path)
    options = parser.parse_args()
    fits = [(plate, fit(catalogue(*plate))) for plate in NEMA + IEC]
    met = [(plate, found) for plate, found in fits if isinstance(found, Fit)]
    print(f"{len(met)} of {len(fits)} plates have a circuit; a torque may exceed its floor.")
    short = sorted(met, key=lambda pair: min(pair[1].residuals[name] for name in FIGURES))
    print(f"\n{'hp':>7} {'poles':>5} {'design':>6} {'T start':>9} {'T top':>9}   furthest below their floors")
    for (power, poles, _, _, design, _), found in short[:MOST_ROWS]:
        start, top = (100 * found.residuals[name] for name in FIGURES)
        print(f"{power / 745.7:7.1f} {poles:5} {design:>6} {start:+8.1f}% {top:+8.1f}%")
    print("\nwithout a circuit:")
    for (power, poles, _, _, design, _), found in fits:
        if not isinstance(found, Fit):
            print(f"{power / 745.7:7.1f} {poles:5} {design:>6}   {found.odd}: {found.reason}")
    if options.svg:
        options.svg.write_text(chart([(plate[0], found) for plate, found in met]))


def chart(met: list[tuple[float, Fit]]) -> str:
    """Breakdown-torque residual against power, on a logarithmic axis."""
    import math

    shapes: list[Shape] = [Line(role="axis", points=[(40, 130), (600, 130)])]
    for power, found in met:
        x = 40 + 560 * (math.log10(power / 700) / math.log10(600))
        y = 130 - 100 * max(-1.2, min(1.2, found.residuals["breakdown_torque"]))
        shapes.append(Circle(role="dot", at=(round(x, 1), round(y, 1)), radius=3))
    for percent in (-100, 0, 100):
        shapes.append(Text(role="tick", at=(34, 134 - percent), text=f"{percent} %", anchor="end"))
    scene = Scene(size=(620, 270), shapes=shapes, title="Breakdown torque against its floor, by power")
    return svg_file(scene, ".dot{fill:#a2461b;fill-opacity:.5}.axis{stroke:#888}text{font:11px sans-serif}")


if __name__ == "__main__":
    main()
