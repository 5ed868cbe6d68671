"""The run from the board to the motor: what it is and how it is laid."""

from __future__ import annotations

from typing import Annotated

from vinegate.core import quantity as q
from vinegate.core.field import Fact, Facts, choice, measure, numbered, whole
from vinegate.core.supply.facts import MAIN, METALS, RACEWAYS, read_size

INSTALLED = (
    ("A1", "A1, conduit in an insulated wall"),
    ("A2", "A2, cable in conduit in an insulated wall"),
    ("B1", "B1, conductors in conduit on a wall"),
    ("B2", "B2, cable in conduit on a wall"),
    ("C", "C, cable on a wall"),
    ("D1", "D1, cable in a duct in the ground"),
    ("D2", "D2, cable direct in the ground"),
    ("E", "E, cable in free air"),
    ("F", "F, single cores touching in free air"),
    ("G", "G, single cores spaced in free air"),
)
DUTIES = (
    ("short-time", "short-time"),
    ("intermittent", "intermittent"),
    ("periodic", "periodic"),
    ("varying", "varying"),
)


class Wiring(Facts):
    """The run from the board to the motor."""

    board: Annotated[
        str | None, numbered("From board", "board", MAIN, help="The main board where nothing is chosen.")
    ] = None

    size: Annotated[
        str | None,
        Fact(label="Conductor size", read=read_size, example="1/0 AWG or 35 mm²", help="One phase conductor."),
    ] = None
    metal: Annotated[str | None, choice("Metal", METALS)] = None
    raceway: Annotated[str | None, choice("Raceway", RACEWAYS, rules="nec")] = None
    length_m: Annotated[float | None, measure("Length", q.LENGTH, "l", help="One way, board to motor.")] = None
    sets: Annotated[
        int | None,
        whole("Sets in parallel", 1, 12, symbol="m", example="1", help="Conductors per phase."),
    ] = None
    temperature_c: Annotated[
        float | None,
        measure(
            "Conductor temperature",
            q.CONDUCTOR_TEMPERATURE,
            "θ",
            help="In service; empty: 75 °C (NEC), or the usual 1.25 × the 20 °C ohms (IEC).",
        ),
    ] = None
    insulation: Annotated[
        str | None,
        choice("Insulation", (("60", "60 °C"), ("75", "75 °C"), ("90", "90 °C")), rules="nec", help="Empty: 75 °C."),
    ] = None
    terminals: Annotated[
        str | None,
        choice(
            "Terminals marked",
            (("60", "60 °C"), ("75", "75 °C")),
            rules="nec",
            help="Lower of both ends. Empty: by 110.14(C).",
        ),
    ] = None
    insulation_iec: Annotated[
        str | None,
        choice("Insulation", (("pvc", "PVC, 70 °C"), ("xlpe", "XLPE or EPR, 90 °C")), rules="iec", help="Empty: PVC."),
    ] = None
    method: Annotated[
        str | None,
        choice("Laid as", INSTALLED, rules="iec", help="Reference method of 60364-5-52; empty: B2."),
    ] = None
    ambient_c: Annotated[
        float | None, measure("Ambient", q.AMBIENT, "θ_a", example="40 °C", help="Empty: 30 °C (ground 20 °C, IEC).")
    ] = None
    soil_kmw: Annotated[
        float | None,
        measure("Soil", q.SOIL, "ρ", rules="iec", help="Thermal resistivity, D1 and D2; empty: 2.5 K·m/W."),
    ] = None
    grouped: Annotated[
        int | None,
        whole(
            "Loaded conductors together",
            1,
            400,
            symbol="g",
            label_iec="Circuits together",
            example="3",
            help="In the same raceway or bunch, this circuit's own counted.",
        ),
    ] = None
    duty: Annotated[
        str | None,
        choice("Duty of the run", DUTIES, rules="nec", help="Table 430.22(E); empty: continuous."),
    ] = None
    ground_size: Annotated[
        str | None,
        Fact(
            label="Grounding conductor",
            label_iec="Protective conductor",
            read=read_size,
            example="6 AWG or 16 mm²",
            help="Empty: as advised.",
        ),
    ] = None
    hours: Annotated[
        float | None, measure("Hours a year", q.HOURS, "h", help="At its load; for the next size's worth.")
    ] = None
