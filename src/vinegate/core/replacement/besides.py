"""What hangs on the old motor besides: height above the sea, its encoder, capacitors at its leads, how it is turned."""

from __future__ import annotations

from typing import Final

from vinegate.core.drive.facts import Drive
from vinegate.core.numbers import write
from vinegate.core.replacement.direction import reversing
from vinegate.core.replacement.fits import Fits, Row, Said
from vinegate.core.replacement.pair import Pair

_USUAL_M: Final = 1000.0
_HEIGHT: Final = "NEMA MG 1:2021 14.4; IEC 60034-1:2022 6.2"
_EXCITES: Final = "NFPA 70:2023 460.8; nine tenths of its magnetizing power, so that it does not excite itself"


def beside_rows(pair: Pair) -> list[Row]:
    """Each only where it is asked."""
    made = (altitude, encoder, capacitor, reversing)
    return [row for row in (make(pair) for make in made) if row is not None]


def altitude(pair: Pair) -> Row | None:
    """Either is made for 1000 m where nothing else is said."""
    area = pair.circuit.place.motor
    here = pair.job.area(area).altitude_m if area else None
    if here is None or here <= _USUAL_M:
        return None
    made = pair.facts.altitude_m
    row = Said("altitude", "Height above the sea", f"{write(here, 4)} m here", f"{write(made, 4)} m" if made else "")
    if made is None:
        return row.lacking("greatest height, by its maker")
    if made >= here:
        return row.put(fits=Fits.SAME, text="It is made for this height.", source=_HEIGHT)
    share = max((here - made) / 100, 0.0)
    return row.put(
        fits=Fits.NOT,
        text=f"Its rise is {share:.0f} % more up here than it is made for.",
        source=_HEIGHT,
        task="Its maker's figure for this height, or a larger motor.",
    )


def encoder(pair: Pair) -> Row | None:
    """Where the drive asks for one, or the old one has one."""
    drive = pair.circuit.of("drive", Drive)
    if drive.encoder != "yes" and drive.control != "encoder":
        return None
    said = pair.facts.has_encoder
    row = Said("encoder", "Encoder", "asked by its drive", {"yes": "has one", "no": "has none"}.get(said or "", ""))
    if said is None:
        return row.put(fits=Fits.UNKNOWN, text="", needs=("whether the new motor has an encoder",))
    if said == "no":
        return row.put(
            fits=Fits.NOT,
            text="The drive closes its loop over an encoder, and the new motor has none.",
            source="IEC 61800-2:2021",
            task="An encoder fitted, or the drive set to run without, and tried with its heaviest load.",
        )
    return row.put(
        fits=Fits.WITH,
        text="It has one.",
        source="IEC 61800-2:2021",
        task="Its pulses a turn, volts and direction set in the drive before it runs.",
    )


def capacitor(pair: Pair) -> Row | None:
    """Capacitors switched with the old motor are for its magnetizing power, not for the new one's."""
    var = pair.facts.capacitor_power
    if var is None:
        return None
    row = Said("capacitor", "Capacitors at its leads", f"{write(var / 1000, 3)} kvar", "")
    if pair.way.electronic or pair.way.by_frequency:
        return row.put(
            fits=Fits.NOT,
            text="None may hang behind a drive or soft starter.",
            source="NFPA 70:2023 430.2 and its maker; IEC 60947-4-2:2020",
            task="Take them to the board.",
        )
    old, new = (machine.plate for machine in (pair.old, pair.new))
    same = pair.old.power_w == pair.new.power_w and old.power_factor == new.power_factor and old.power_factor
    if same:
        return row.put(fits=Fits.SAME, text="The same power and power factor.", source=_EXCITES)
    return row.put(
        fits=Fits.WITH,
        text="Chosen for the old one's magnetizing power.",
        source=_EXCITES,
        task="Chosen anew by the new motor's no-load amperes: at most 0.9·√3·U·I_0.",
    )
