"""The plate of the motor that is to take over, and what is known of the machine it will drive."""

from __future__ import annotations

from typing import Final

from vinegate.core import quantity as q
from vinegate.core.field import Facts, choice, field, measure, words
from vinegate.core.machine.facts import MachineFacts
from vinegate.core.plate.facts import Plate
from vinegate.core.plate.kind import Family

_YES_NO: Final = (("yes", "yes"), ("no", "no"))


_SINGLE: Final = (Family.SINGLE,)


class NewPlate(Plate):
    """The new motor's plate, as stamped: the same fields as the old one's."""


class NewMachine(MachineFacts):
    """What is known of the new motor beyond its plate: torques, inertia, its maker's curve."""


BELTS: Final = (("v", "V-belts"), ("flat", "a flat belt"), ("toothed", "a toothed belt"), ("chain", "a chain"))


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
    belt: str | None = field(choice("Belts are", BELTS, help="With the sheave's diameter: how hard they pull."))
    sheave_m: float | None = field(
        measure("Motor's sheave", q.SIZE, "d", help="Pitch diameter of the sheave on the new motor.")
    )
    radial_n: float | None = field(
        measure("Shaft bears sideways", q.FORCE, "F_r", help="Greatest radial force at the shaft's end, by its maker.")
    )
    radial_least_n: float | None = field(
        measure("Pull asked, at least", q.FORCE, "F_min", help="Of a roller bearing, by its maker.")
    )
    old_taps: str | None = field(
        words(
            "Speeds by tap, old",
            60,
            example="1075/900/750",
            families=_SINGLE,
            help="As stamped, the plate's speed first.",
        )
    )
    new_taps: str | None = field(
        words("Speeds by tap, new", 60, example="1075/900/750", families=_SINGLE, help="Likewise.")
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
        choice(
            "Made for a drive", _YES_NO, help="Winding, bearings, cooling and top speed as the drive's sheet has them."
        )
    )
    altitude_m: float | None = field(
        measure("Made for heights to", q.LENGTH, "H", example="1500 m", help="By its maker; empty: not said.")
    )
    has_encoder: str | None = field(choice("Has an encoder", _YES_NO))
    capacitor_power: float | None = field(
        measure("Capacitors at the old leads", q.REACTIVE_POWER, "Q_c", help="Switched with the old motor.")
    )
    reversed_by: str | None = field(
        choice(
            "Turns round by",
            (("leads", "two leads"), ("stator", "turning its stator"), ("never", "nothing")),
            help="The new motor; by nothing where its fan is for one way.",
        )
    )
    part_winding: str | None = field(
        choice("Made to start by halves", _YES_NO, families=(Family.CAGE,), help="The new motor, by its maker.")
    )
    te_s: float | None = field(
        measure("Time t_E", q.SECONDS, "t_E", example="9 s", help="Stamped on the new motor, if it is Ex eb.")
    )
    listed_for_drive: str | None = field(
        choice("Listing covers drive duty", _YES_NO, help="Of the new motor, in a classified area.")
    )
    both_speeds: str | None = field(
        choice("Has both speeds", _YES_NO, families=(Family.CAGE,),
               help="Of a circuit of two: the same two, by windings or poles as the old motor's.")
    )  # fmt: skip
    has_heater: str | None = field(choice("Has a space heater", _YES_NO, help="Of the volts that are there."))
