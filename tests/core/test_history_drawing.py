"""Readings over the years as drawn: a bound is not drawn as if it had been read."""

from datetime import datetime

from vinegate.core.facts import read_circuit
from vinegate.drawing.history import histories
from vinegate.drawing.scene import Circle, Path

YEARS = [datetime(2024, 3, 1), datetime(2025, 3, 1), datetime(2026, 3, 1)]
KEY = "record_insulation.r1_ohm"


def ohms(text):
    circuit, errors = read_circuit({"record_insulation": {"r1": text}}, "iec")
    assert not errors
    return circuit.part("record_insulation").r1_ohm


def drawn(*texts):
    found = list(histories([(at, {KEY: ohms(text)}) for at, text in zip(YEARS, texts, strict=False)]))
    return found[0] if found else None


def test_an_instrument_s_end_points_upwards_and_says_so():
    title, scene = drawn("1.2 GΩ", "> 2 GΩ", "0.9 GΩ")
    assert "at least" in title
    arrows = [shape for shape in scene.shapes if isinstance(shape, Path) and shape.role == "least"]
    dots = [shape for shape in scene.shapes if isinstance(shape, Circle)]
    assert (len(arrows), len(dots)) == (1, 2)
    tip = min(arrows[0].points, key=lambda at: at[1])
    assert dots[0].at[0] < tip[0] < dots[1].at[0]
    assert tip[1] < min(dot.at[1] for dot in dots)


def test_readings_alone_are_dots():
    title, scene = drawn("1.2 GΩ", "0.9 GΩ")
    assert "at least" not in title
    assert not any(shape.role == "least" for shape in scene.shapes)
    assert drawn("1.2 GΩ") is None
