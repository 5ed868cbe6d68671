"""What the place and the driven machine see: enclosure, heat, listing, frame, mounting, bearings, direction."""

from __future__ import annotations

import re
from typing import Final

from vinegate.core.plate.duty import Duty, read_duty
from vinegate.core.plate.insulation import class_letter, rise_allowed_k
from vinegate.core.records import replace
from vinegate.core.replacement.belts import bearings
from vinegate.core.replacement.direction import rotation
from vinegate.core.replacement.enclosed import enclosure, protection
from vinegate.core.replacement.fits import Fits, Row, Said
from vinegate.core.replacement.fixing import frame, mounting, said_of
from vinegate.core.replacement.pair import Pair
from vinegate.core.replacement.watched import thermal
from vinegate.core.starter.facts import Starter
from vinegate.core.starter.heater import has_heater

_CLASSES: Final = ("A", "E", "B", "F", "H")


def body_rows(pair: Pair) -> list[Row]:
    """Every respect apart: no single ladder."""
    made = (
        enclosure,
        protection,
        insulation,
        ambient,
        duty,
        thermal,
        frame,
        mounting,
        bearings,
        rotation,
        brake,
        drive,
        heater,
    )
    return [row for row in (make(pair) for make in made) if row is not None]


def insulation(pair: Pair) -> Row | None:
    row = said_of(pair, "insulation", "Insulation class", "insulation_class")
    classes = [class_letter(getattr(row, side)) for side in ("old", "new")]
    if any(one not in _CLASSES for one in classes):
        return row.lacking("insulation class")
    old, new = (_CLASSES.index(one) for one in classes)
    if new >= old:
        return row.put(fits=Fits.SAME, text="The same." if new == old else "A better one.")
    source, rise = "IEC 60085:2007; NEMA MG 1:2021 12.43", pair.new.plate.temperature_rise_k
    allows = rise_allowed_k(row.new)
    if rise is not None and allows is not None and rise <= allows:
        text = f"It bears less heat; its stamped rise, {rise:g} K, is within the {allows:g} K of its class."
        return row.put(fits=Fits.WITH, text=text, source=source, task="Its sensors and overload as its class asks.")
    return row.put(
        fits=Fits.NOT, text="It bears less heat.", source=source, task="Its rise proven lower, by its maker."
    )


def ambient(pair: Pair) -> Row | None:
    """Either is made for 40 °C where its plate does not say otherwise."""
    old, new = (machine.plate.ambient_c for machine in (pair.old, pair.new))
    if old is None and new is None:
        return None
    first, second = (40.0 if one is None else one for one in (old, new))
    row = Said("ambient", "Ambient", f"{first:g} °C", f"{second:g} °C")
    if second >= first:
        return row.put(fits=Fits.SAME, text="At least as warm.")
    area, source = pair.circuit.place.motor, "NEMA MG 1:2021 12.43; IEC 60034-1:2022 6.3"
    here, task = pair.job.area(area).ambient_high_c if area else None, "The air there measured, or its load lowered."
    if here is None:
        return row.put(fits=Fits.UNKNOWN, text="It is made for cooler air.", source=source, task=task,
                       needs=("the warmest air where it stands",))  # fmt: skip
    text = f"It is made for cooler air; where it stands it reaches {here:g} °C."
    if here <= second:
        return row.put(fits=Fits.WITH, text=text, source=source, task=f"The air there kept within {second:g} °C.")
    return row.put(fits=Fits.NOT, text=text, source=source, task=task)


_NO_INERTIA: Final = ("S3", "S6")
"""Periodic duties that a share alone describes: IEC 60034-1:2022 5.2."""


def duty(pair: Pair) -> Row | None:
    """For ever bears any cycle; a short or cyclic rating one that is no longer."""
    row = said_of(pair, "duty", "Duty", "duty")
    if not row.old and not row.new:
        return None
    was, now = read_duty(row.old), read_duty(row.new)
    if re.sub(r"[\s,;-]+", "", row.old.upper()) == re.sub(r"[\s,;-]+", "", row.new.upper()):
        return row.put(fits=Fits.SAME, text="The same.")
    if now is not None and now.continuous:
        return row.put(fits=Fits.SAME, text="For ever, whatever the cycle.")
    if was is None or now is None:
        return row.lacking("duty")
    if not now.kind or not was.kind:
        return row.lacking("duty in a standard's words")
    if was.kind == now.kind and _no_shorter(was, now):
        return row.put(fits=Fits.SAME, text="A rating of its kind, and no shorter.", source=_DUTY)
    return row.put(
        fits=Fits.NOT, text="A short rating in place of another.", source=_DUTY, task="Its cycle worked by its maker."
    )


_DUTY: Final = "IEC 60034-1:2022 4.2; NEMA MG 1:2021 10.36"


def _no_shorter(old: Duty, new: Duty) -> bool:
    """Of two ratings of one kind."""
    if new.kind == "S2":
        return old.minutes is not None and new.minutes is not None and new.minutes >= old.minutes
    shares = old.share_pu is not None and new.share_pu is not None and new.share_pu >= old.share_pu
    return new.kind in _NO_INERTIA and shares


def drive(pair: Pair) -> Row | None:
    """Fed by a drive: its winding must be made for the pulses, its cooling for the speeds."""
    if not pair.way.by_frequency:
        return None
    said = {"yes": "made for it", "no": "not made for it"}.get(pair.facts.drive_ready or "", "")
    row = Said("drive", "Drive duty", "on its drive", said)
    if pair.facts.drive_ready is None:
        return row.put(fits=Fits.UNKNOWN, text="", needs=("whether the new winding is made for a drive",))
    if pair.facts.drive_ready == "yes":
        source = "NEMA MG 1:2021 part 31; IEC 60034-18-41:2014"
        return row.put(fits=Fits.WITH, text="Made for it, by its maker.", source=source,
                       task="Its plate entered at the drive, and tuned anew.")  # fmt: skip
    return row.put(fits=Fits.NOT, text="The drive's pulses may break its winding.", source="NEMA MG 1:2021 part 30",
                   task="A filter at the drive's output, or a motor made for drives.")  # fmt: skip


def heater(pair: Pair) -> Row | None:
    """Where the circuit feeds one."""
    if not has_heater(pair.circuit, pair.circuit.of("starter", Starter)):
        return None
    said = {"yes": "has one", "no": "none"}.get(pair.facts.has_heater or "", "")
    row = Said("heater", "Space heater", "fed while it stands", said)
    if pair.facts.has_heater is None:
        return row.put(fits=Fits.UNKNOWN, text="", needs=("whether the new motor has a space heater",))
    if pair.facts.has_heater == "yes":
        return row.put(fits=Fits.WITH, text="It has its own.", source="its own plate",
                       task="Heater wired, its volts and watts read on its plate.")  # fmt: skip
    return row.put(fits=Fits.WITH, text="It has none.", source="its own plate",
                   task="Heater's leads capped; a damp place asks for one.")  # fmt: skip


def brake(pair: Pair) -> Row | None:
    """A brake on the old motor goes with it."""
    if not pair.holds:
        return None
    row = Said("brake", "Brake", "on the old motor", "" if pair.facts.brake_fits is None else "taken over")
    if pair.facts.brake_fits is None:
        return row.put(fits=Fits.UNKNOWN, text="", needs=("whether its brake is taken over",))
    if pair.facts.brake_fits == "yes":
        return row.put(
            fits=Fits.WITH,
            text="Taken over.",
            source="IEC 60204-1:2016 9.3",
            task="Its torque, coil volts and release delay tried.",
        )
    return replace(row, new="none").put(
        fits=Fits.NOT,
        text="Nothing holds the load.",
        source=pair.rules.papers.hoist or "IEC 60204-1:2016 9.3",
    )
