"""The new motor's listing or certificate: whether it may stand where the old one stands."""

from __future__ import annotations

from typing import Final

from vinegate.core.grade import Gate, Verdict
from vinegate.core.place.temperature import code_of
from vinegate.core.replacement.fits import Fits, Row, Said
from vinegate.core.replacement.pair import Machine, Pair

_PLACE: Final = "place.motor"


def listing_row(pair: Pair, gates: tuple[Gate, ...]) -> Row | None:
    """By what is judged of the place with the new plate in it, `gates`; None where the old one has none either."""
    name = "Hazardous listing" if pair.rules.hazards.divisions else "Ex marking"
    row = Said("listing", name, _marked(pair.old), _marked(pair.new))
    source = pair.rules.papers.classification
    if not row.old:
        return None
    if not row.new:
        return row.put(fits=Fits.NOT, text="The old one is listed for its area, and the new one is not.", source=source)
    codes = [code_of(machine.plate.temperature_code) for machine in (pair.old, pair.new)]
    if row.old == row.new and codes[0] == codes[1]:
        return row.put(fits=Fits.SAME, text="The same marking and temperature code.")
    there = next((gate for gate in gates if gate.key == _PLACE), None)
    if there is not None and there.verdict is Verdict.FAILS:
        return row.put(fits=Fits.NOT, text=there.sentence, source=there.source, task="A motor marked for its area.")
    if there is not None and there.verdict is Verdict.PASSES:
        return row.put(fits=Fits.WITH, text=there.sentence, source=there.source,
                       task="Its certificate kept with the area's document.")  # fmt: skip
    return row.put(fits=Fits.UNKNOWN, text="", needs=("whether its marking covers the area: see the place below",))


def _marked(machine: Machine) -> str:
    return " / ".join(text for text in (machine.plate.listing, machine.plate.ex_marking) if text)
