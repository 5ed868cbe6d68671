"""The run from the board to the motor: what it is and how it is laid."""

from __future__ import annotations

import re
from typing import Final

from vinegate.core import quantity as q
from vinegate.core.field import Also, Fact, Facts, choice, field, measure, numbered, whole
from vinegate.core.numbers import QuantityError
from vinegate.core.plate.kind import Family
from vinegate.core.supply.cable import conductor
from vinegate.core.supply.conduit import CONDUITS, CONDUITS_ALSO, COVERINGS, COVERINGS_ALSO, TRADES, read_trade
from vinegate.core.supply.facts import MAIN, METALS, METALS_ALSO, RACEWAYS, RACEWAYS_ALSO

INSTALLED = (
    ("A1", "A1, conduit in insulated wall"),
    ("A2", "A2, cable in conduit, insulated wall"),
    ("B1", "B1, cores in conduit on a wall"),
    ("B2", "B2, cable in conduit on a wall"),
    ("C", "C, cable on a wall"),
    ("D1", "D1, cable in a buried duct"),
    ("D2", "D2, cable direct in the ground"),
    ("E", "E, cable in free air"),
    ("F", "F, cores touching in free air"),
    ("G", "G, cores spaced in free air"),
)
LINES = (("1", "L1"), ("2", "L2"), ("3", "L3"), ("12", "L1-L2"), ("23", "L2-L3"), ("13", "L1-L3"))
DUTIES = (
    ("short-time", "short-time"),
    ("intermittent", "intermittent"),
    ("periodic", "periodic"),
    ("varying", "varying"),
)


_TAG: Final = re.compile(r"[A-Za-z0-9][A-Za-z0-9._-]{0,23}")


def read_tags(text: str) -> tuple[str, ...]:
    """Circuits by their tags. Raises QuantityError.

    >>> read_tags("P-11; P-12,"), read_tags("P-11 and P-12"), read_tags("P-11/P-12")
    (('P-11', 'P-12'), ('P-11', 'P-12'), ('P-11', 'P-12'))
    """
    found = tuple(dict.fromkeys(part for part in re.split(r"(?:[,;/&+\s]|\band\b(?![-.\d]))+", text) if part))
    if not found or not all(_TAG.fullmatch(one) for one in found):
        raise QuantityError("Give tags of circuits, parted by commas, like P-11, P-12.")
    return found


_TYPES: Final = {
    **dict.fromkeys(("TW", "UF"), "60"),
    **dict.fromkeys(("THW", "THWN", "RHW", "XHHW", "USE"), "75"),
    **dict.fromkeys(("THHN", "THHN/THWN-2", "THWN-2", "RHH", "RHW-2", "XHHW-2", "USE-2"), "90"),
}
"""Of NFPA 70:2023 table 310.4(1), as far as a wet place allows them; XHHW bears 90 °C where it is dry."""
_INSTALLED_ALSO: Final[Also] = {
    "clipped direct": "C", "direct buried": "D2", "buried direct": "D2", "trunking": ("B1", "B2"),
    **dict.fromkeys(("tray", "cable tray", "perforated tray", "ladder", "cable ladder"), ("E", "F")),
}  # fmt: skip
_SORTS: Final = {"EPR": "xlpe", "XLPE": "xlpe", "90 °C": "xlpe", "PVC": "pvc", "70 °C": "pvc"}


class Wiring(Facts):
    """The run from the board to the motor."""

    board: str | None = field(numbered("From board", "board", MAIN, help="The main board where nothing is chosen."))
    lines: str | None = field(
        choice("On lines", LINES, families=(Family.SINGLE,), help="Of its board, whose sums add what meets on a line.")
    )

    stands_by: tuple[str, ...] | None = field(
        Fact(label="Stands by for", read=read_tags, example="P-11",
             help="Circuits it never runs beside: their contact is drawn. Feeders and sources count one of them.")
    )  # fmt: skip
    size: str | None = field(conductor("Conductor size", example="1/0 AWG or 35 mm²", help="One phase conductor."))
    metal: str | None = field(choice("Metal", METALS, also=METALS_ALSO))
    raceway: str | None = field(choice("Raceway", RACEWAYS, also=RACEWAYS_ALSO, rules="nec"))
    length_m: float | None = field(measure("Length", q.LENGTH, "l", help="One way, board to motor."))
    sets: int | None = field(whole("Sets in parallel", 1, 12, symbol="m", example="1", help="Conductors per phase."))
    temperature_c: float | None = field(
        measure(
            "Conductor temperature",
            q.CONDUCTOR_TEMPERATURE,
            "θ",
            help="In service; empty: 75 °C (NEC), or the usual 1.25 × the 20 °C ohms (IEC).",
        )
    )
    insulation: str | None = field(
        choice(
            "Insulation",
            (("60", "60 °C"), ("75", "75 °C"), ("90", "90 °C")),
            also=_TYPES,
            rules="nec",
            help="Empty: 75 °C.",
        )
    )
    terminals: str | None = field(
        choice(
            "Terminals marked",
            (("60", "60 °C"), ("75", "75 °C")),
            rules="nec",
            help="Lower of both ends. Empty: by 110.14(C).",
        )
    )
    insulation_iec: str | None = field(
        choice(
            "Insulation",
            (("pvc", "PVC, 70 °C"), ("xlpe", "XLPE or EPR, 90 °C")),
            also=_SORTS,
            rules="iec",
            help="Empty: PVC.",
        )
    )
    method: str | None = field(
        choice(
            "Laid as", INSTALLED, also=_INSTALLED_ALSO, rules="iec", help="Reference method of 60364-5-52; empty: B2."
        )
    )
    ambient_c: float | None = field(
        measure(
            "Ambient",
            q.AMBIENT,
            "θ_a",
            example="40 °C",
            help="Empty: its areas' air, else 30 °C; in the ground 20 °C (IEC).",
        )
    )
    soil_kmw: float | None = field(
        measure("Soil", q.SOIL, "ρ", rules="iec", help="Thermal resistivity, D1 and D2; empty: 2.5 K·m/W.")
    )
    grouped: int | None = field(
        whole(
            "Loaded conductors together",
            1,
            400,
            symbol="g",
            label_iec="Circuits together",
            counts="circuits?|conductors?|wires?|cables?|CCC",
            example="3",
            help="In the same raceway or bunch, this circuit's own counted: each set that lies there.",
        )
    )
    duty: str | None = field(choice("Duty of the run", DUTIES, rules="nec", help="Table 430.22(E); empty: continuous."))
    ground_size: str | None = field(
        conductor(
            "Grounding conductor",
            label_iec="Protective conductor",
            example="6 AWG or 16 mm²",
            help="Empty: as advised.",
        )
    )
    covering: str | None = field(
        choice(
            "Wire type",
            COVERINGS,
            also=COVERINGS_ALSO,
            rules="nec",
            help="For its room in the conduit; RHW-2 without outer covering.",
        )
    )
    conduit_kind: str | None = field(
        choice(
            "Kind of conduit",
            CONDUITS,
            also=CONDUITS_ALSO,
            rules="nec",
            help="Rigid (RMC, IMC), tubing (EMT), flexible (LFMC, FMC), PVC by its schedule.",
        )
    )
    conduit: str | None = field(
        Fact(label="Conduit", read=read_trade, choices=TRADES, rules="nec", help="Trade size. Empty: as advised.")
    )
    hours: float | None = field(measure("Hours a year", q.HOURS, "h", help="At its load; for the next size's worth."))
