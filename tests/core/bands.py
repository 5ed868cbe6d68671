"""A load's facts as points, for tests that build one by hand."""

from __future__ import annotations

from vinegate.core.turning import Taken, point


def load_bands(inertia: float) -> dict[str, Taken]:
    """Power in kW, breakaway in per cent, inertias in kg·m²: all of them given; the rotor's is in the load's."""
    return {"power": point(1.0), "breakaway": point(0.0), "inertia": point(inertia), "rotor": point(0.0)}
