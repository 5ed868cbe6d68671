"""How much current a motor bears at low speed, cooled by its own fan or otherwise."""

from __future__ import annotations

from typing import Final

import numpy as np
import numpy.typing as npt

from vinegate.core.arrays import Array
from vinegate.core.assumed import preset
from vinegate.core.drive.facts import COOLINGS, Drive
from vinegate.core.drive.need import Need
from vinegate.core.grade import Gate, check
from vinegate.core.plate.enclosed import cooling_code, enclosure_code
from vinegate.core.plate.insulation import rise_allowed_k
from vinegate.core.records import dataclass
from vinegate.core.tables import load
from vinegate.core.turning import Turns
from vinegate.core.working import Provenance

LOAD_LOSS: Final = 0.65
CORE_LOSS: Final = 0.20
DRAG_LOSS: Final = 0.15
BAND: Final = 0.10
_JUST: Final = 1 - 1e-9
_MADE_FOR_DRIVES: Final = ("mg1-31", "ivic-b", "ivic-c", "ivic-d")


@dataclass(frozen=True, slots=True, kw_only=True)
class Cooling:
    """`at_rest` and `exponent` of the cooling by speed, `bears` its insulation over its rise, `derate` for harmonics.

    `full_from_hz` is the maker's word on full torque; `band` the model's own tolerance, in current per unit.
    """

    kind: str
    at_rest: float
    exponent: float
    bears: float
    derate: float
    full_from_hz: float | None
    assumed: bool

    @property
    def blower(self) -> str:
        """What a motor cooled by its own fan can be given; empty where it is cooled otherwise."""
        return "a blower of its own" if self.kind in ("fan", "open") else ""

    @property
    def band(self) -> float:
        return 0.0 if self.at_rest == 1 or self.full_from_hz is not None else BAND

    def full_at(self, hertz: Array) -> npt.NDArray[np.bool_]:
        """Where its maker gives full torque on a drive: harmonics and cooling are then in his word."""
        return np.asarray(hertz) >= (np.inf if self.full_from_hz is None else self.full_from_hz * _JUST)

    def share(self, k: Array) -> Array:
        """Cooling at these speeds, of that at rated speed."""
        speed = np.maximum(np.asarray(k, dtype=float), 0.0)
        return np.asarray(self.at_rest + (1 - self.at_rest) * speed**self.exponent)

    def current_pu(self, k: Array, hertz: Array | None = None) -> Array:
        """Continuous current at these speeds per unit of rated, at most one; `hertz` are the drive's there.

        >>> fan = Cooling(kind="fan", at_rest=0.2, exponent=1, bears=1, derate=1, full_from_hz=None, assumed=False)
        >>> [round(100 * float(one), 1) for one in fan.current_pu(np.array([1, 0.5, 0.25, 0.1, 0]))]
        [100.0, 88.6, 75.7, 64.9, 55.5]
        """
        speed = np.maximum(np.asarray(k, dtype=float), 0.0)
        core = CORE_LOSS * speed**1.5 / np.maximum(speed, 1.0) ** 2  # above rated speed the flux falls
        left = self.share(speed) * self.bears - core - DRAG_LOSS * speed ** (3 if self.at_rest < 1 else 1)
        if self.assumed:  # a fan of its own gives more air above rated speed: it may have none
            left = np.minimum(left, self.bears - core - DRAG_LOSS * speed)
        found = np.minimum(np.sqrt(np.maximum(left, 0.0) / LOAD_LOSS), 1.0) * self.derate
        if self.full_from_hz is not None and hertz is not None:
            found = np.where(self.full_at(hertz), 1.0, found)
        return np.asarray(found)


def kind_of_cooling(facts: Drive, code: str | None, enclosure: str | None) -> tuple[str, bool]:
    """How the motor is cooled, and whether that is assumed: by the fact, the plate's code, else its own fan.

    >>> [kind_of_cooling(Drive(), *said) for said in (("IC416", None), (None, "TEBC"), (None, None))]
    [('blower', False), ('blower', False), ('fan', True)]
    """
    if facts.cooling:
        return facts.cooling, False
    typed = cooling_code(code)
    by_code = {row["code"]: row["kind"] for row in load("drive_cooling").rows if row["code"]}
    if typed in by_code:
        return by_code[typed], False
    by_letters = {"TEBC": "blower", "TENV": "none", "TEFC": "fan", "ODP": "open", "WPI": "open", "WPII": "open"}
    letters = enclosure_code(enclosure)
    return (by_letters[letters], False) if letters in by_letters else ("fan", True)


def cooling_of(need: Need) -> Cooling:
    """Put it on the sheet: how it is cooled, what its insulation leaves, what harmonics take."""
    sheet, facts, plate = need.sheet, need.facts, need.circuit.plate
    kind, assumed = kind_of_cooling(facts, plate.cooling, plate.enclosure)
    row = load("drive_cooling").find(kind=kind)
    assert row is not None
    at_rest = sheet.given(
        "cooling_at_rest", f"Cooling left at rest: {dict(COOLINGS)[kind]}", "h_0", 100 * float(row["at_rest"]), "%",
        provenance=Provenance.ASSUMED if assumed else Provenance.ESTIMATED, source=load("drive_cooling").source,
    )  # fmt: skip
    bears = _bears(need)
    made = facts.winding in _MADE_FOR_DRIVES
    derate = sheet.given(
        "harmonic_derate",
        "Left for the harmonics' heat",
        "k_u",
        100 if made else 100 * preset("drive_harmonic_derate"),
        "%",
        provenance=Provenance.STATED if made else Provenance.ASSUMED,
        source="made for drives, by its maker"
        if made
        else "NEMA MG 1:2021 30.2.2.2; IEC TS 60034-25; a motor not made for drives",
    )
    return Cooling(
        kind=kind,
        at_rest=at_rest.value / 100,
        exponent=float(row["exponent"]),
        bears=bears,
        derate=derate.value / 100,
        full_from_hz=facts.full_torque_hz,
        assumed=assumed,
    )


def _bears(need: Need) -> float:
    """Limit of the insulation over the rise at rated load, where both are stamped; else it is used up."""
    plate, sheet = need.circuit.plate, need.sheet
    allowed_k = rise_allowed_k(plate.insulation_class)
    if allowed_k is None or plate.temperature_rise_k is None:
        return 1.0
    limit = sheet.given("rise_limit", "Rise its insulation allows", "θ_l", allowed_k, "K",
                        provenance=Provenance.TABLE, source="IEC 60034-1:2022 table 8, by resistance")  # fmt: skip
    rise = sheet.given("rise", "Rise at rated load", "θ_r", plate.temperature_rise_k, "K", source="plate",
                       provenance=Provenance.STAMPED)  # fmt: skip
    return sheet.work("bears", "Losses it bears, of rated", "b", max(limit.value / rise.value, 1.0), "",
                      formula="max(θ_l/θ_r, 1)", inputs=(limit, rise),
                      source="rise goes with the losses").value  # fmt: skip


def cooled_as_said(need: Need) -> tuple[Gate, ...]:
    """More cooling at low speed than the plate names is a blower or a word that someone has to have."""
    facts, plate = need.facts, need.circuit.plate
    stamped, assumed = kind_of_cooling(Drive(), plate.cooling, plate.enclosure)
    rows = load("drive_cooling")
    said, named = rows.find(kind=facts.cooling or stamped), rows.find(kind=stamped)
    if assumed or said is None or named is None or float(said["at_rest"]) <= float(named["at_rest"]):
        return ()
    names = dict(COOLINGS)
    text = f"Said to be {names[said['kind']]}; its plate, {plate.cooling or plate.enclosure}, says {names[stamped]}."
    turns = Turns(path="drive.cooling", label="cooling", passes=f"as the plate has it: {names[stamped]}",
                  passes_as=names[stamped])  # fmt: skip
    if said["code"]:
        turns = Turns(path="plate.cooling", label="cooling on the plate", passes=said["code"], passes_as=said["code"])
    text += f" Passes for {turns.label} {turns.passes}."
    return (
        check("drive.cooled", "Cooled as its plate says", turns, text, "IEC 60034-6: cooling by its code",
              remedy="Read the plate again; a blower that was put on belongs to its data."),
    )  # fmt: skip
