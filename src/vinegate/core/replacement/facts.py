"""The plate of the motor that is to take over, and what is known of the machine it will drive."""

from __future__ import annotations

from typing import Final

from vinegate.core import quantity as q
from vinegate.core.field import Facts, choice, field, measure
from vinegate.core.plate.facts import Plate

_YES_NO: Final = (("yes", "yes"), ("no", "no"))


class NewPlate(Plate):
    """The new motor's plate, as stamped: the same fields as the old one's."""


class Replacement(Facts):
    """What is known beside the two plates."""

    measured_power_w: float | None = field(
        measure(
            "Measured load", q.POWER, "P_m", help="Shaft power of the old motor at work, from its amperes or watts."
        )
    )
    coupled: str | None = field(
        choice("Coupled", (("direct", "by a coupling"), ("belt", "by belts"), ("flange", "by its flange")))
    )
    one_way: str | None = field(
        choice("Turns one way only", _YES_NO, help="The driven machine, or the new motor's fan.")
    )
    adjusted: str | None = field(
        choice("Speed made good", _YES_NO, help="Sheave, impeller or gear changed for the new speed.")
    )
    brake_fits: str | None = field(
        choice("Brake taken over", _YES_NO, help="A brake on the old motor fits the new one.")
    )
    drive_ready: str | None = field(
        choice("Made for a drive", _YES_NO, help="The new winding, as the circuit's drive asks, by its maker.")
    )
    altitude_m: float | None = field(
        measure("Made for heights to", q.LENGTH, "H", example="1500 m", help="By its maker; empty: not said.")
    )
    has_encoder: str | None = field(choice("Has an encoder", _YES_NO))
    capacitor_power: float | None = field(
        measure("Capacitors at the old leads", q.REACTIVE_POWER, "Q_c", help="Switched with the old motor.")
    )
    reversed_by: str | None = field(
        choice("Turns round by", (("leads", "two leads"), ("stator", "turning its stator"), ("never", "nothing")))
    )
    has_heater: str | None = field(choice("Has a space heater", _YES_NO, help="Of the volts that are there."))
