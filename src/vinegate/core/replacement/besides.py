"""What hangs on the old motor besides: height above the sea, its encoder, capacitors at its leads, how it is turned."""

from __future__ import annotations

from typing import Final

from vinegate.core.drive.facts import Drive
from vinegate.core.numbers import write
from vinegate.core.protection.capacitor import SHARE
from vinegate.core.replacement.direction import reversing
from vinegate.core.replacement.fits import Fits, Row, Said
from vinegate.core.replacement.pair import Pair
from vinegate.core.turning import Taken

_USUAL_M: Final = 1000.0
_HEIGHT: Final = "NEMA MG 1:2021 14.4; IEC 60034-1:2022 6.2"
_EXCITES: Final = "NFPA 70:2023 460.8; nine tenths of its magnetizing power, so that it does not excite itself"


def beside_rows(pair: Pair, idle: Taken | None) -> list[Row]:
    """Each only where it is asked. `idle` are the new machine's no-load amperes."""
    made = (altitude(pair), encoder(pair), capacitor(pair, idle), reversing(pair))
    return [row for row in made if row is not None]


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


def capacitor(pair: Pair, idle: Taken | None) -> Row | None:
    """Capacitors switched with the old motor are for its magnetizing power: held against the new one's own."""
    var = pair.facts.capacitor_power
    if var is None:
        return None
    row = Said("capacitor", "Capacitors at its leads", f"{write(var / 1000, 3)} kvar", "")
    if pair.way.electronic or pair.way.converts:
        return row.put(
            fits=Fits.NOT,
            text="None may hang behind a drive or soft starter.",
            source="NFPA 70:2023 430.2 and its maker; IEC 60947-4-2:2020",
            task="Take them to the board.",
        )
    if idle is None or pair.supply is None:
        return row.put(fits=Fits.UNKNOWN, text="", needs=("the new motor's no-load amperes",))
    least, most = (SHARE * 3**0.5 * pair.supply.volts_v * amps for amps in (idle.low, idle.high))
    allows = (
        f"{write(least / 1000, 3)} kvar" if idle.given else f"{write(least / 1000, 3)} to {write(most / 1000, 3)} kvar"
    )
    text = f"{SHARE:.0%} of what the new one idles with is {allows}.".replace("%", " %")
    if var > most:
        return row.put(fits=Fits.NOT, text=text, source=_EXCITES, task="Smaller ones, or at the board.")
    if var > least:
        return row.put(fits=Fits.UNKNOWN, text=text, needs=("the new motor's no-load amperes",))
    return row.put(fits=Fits.SAME, text=text, source=_EXCITES)
