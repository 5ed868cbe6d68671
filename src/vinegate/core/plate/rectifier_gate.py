"""Can a bridge on this supply give a direct-current plate its volts?"""

from __future__ import annotations

from typing import Final

from vinegate.core.facts import Circuit, Job
from vinegate.core.fed import volts_of
from vinegate.core.grade import Gate, at_least, confirm, unknown
from vinegate.core.numbers import write
from vinegate.core.plate.rated import Rated
from vinegate.core.rectifier import Bridge, bridge_of
from vinegate.core.sheet import Sheet
from vinegate.core.turning import Taken, point
from vinegate.core.working import Provenance

_GIVES: Final = (0.78, 0.87, 0.97)
"""Of what it would give fired at once on the supply's own volts: at nine tenths of them with 30° kept to turn back in,
at nine tenths fired at 15°, and fired at 15°; assumed of drives whose maker says nothing."""
_FAR_BACK: Final = 0.6
_KEY: Final = "plate.volts"
_NAME: Final = "Direct-current supply"
_SOURCE: Final = "mean volts of a controlled bridge; Mohan, Undeland, Robbins, 3rd ed., 6-3 and 6-4"


def dc_supply_gates(sheet: Sheet, circuit: Circuit, job: Job, rated: Rated) -> tuple[Gate, ...]:
    """Armature volts against what its drive gives, and what its plate says of the supply it is made for."""
    line_v = volts_of(job, circuit)
    if rated.volts is None or line_v is None:
        lacks = [label for label, fact in (("armature volts", rated.volts), ("system volts", line_v)) if fact is None]
        return (unknown(_KEY, _NAME, tuple(lacks)),)
    bridge = bridge_of(job, circuit)
    ideal = sheet.work(
        "bridge_volts", f"A {bridge.name} bridge, fired at once", "U_d0", bridge.ideal * line_v, "V",
        formula="k_U·U_b",
        inputs=(
            sheet.given("bridge_share", "Its mean volts, of the lines'", "k_U", bridge.ideal, "",
                        provenance=Provenance.TABLE, source=_SOURCE),
            sheet.given("bridge_lines", "Volts at its board", "U_b", line_v, "V"),
        ),
        source=_SOURCE,
    )  # fmt: skip
    gives, asked = _gives(circuit, ideal.value), rated.volts.value
    text = f"A {bridge.name} bridge on {write(line_v)} V gives {'at least' if gives.how else 'by its maker'} "
    text += f"{write(gives.low, 3)} V; {write(asked)} V asked."
    volts = at_least(
        _KEY, _NAME, gives.value, asked, sentence=text, source=_SOURCE, unit="V", rests=(gives,),
        room=lambda most: most - asked, remedy="A transformer ahead of its drive, or a motor for fewer volts.",
    )  # fmt: skip
    return volts, _made_for(bridge, line_v, asked / ideal.value)


def _gives(circuit: Circuit, ideal_v: float) -> Taken:
    """Greatest armature volts, by its maker or as usual."""
    path, label, said = "start.converter_volts", "drive's greatest volts", circuit.start.converter_volts
    if said is not None:
        return point(said, path=path, label=label, unit="V")
    low, value, high = (share * ideal_v for share in _GIVES)
    return Taken(path=path, label=label, unit="V", value=value, low=low, high=high, how="assumed")


def _made_for(bridge: Bridge, line_v: float, share: float) -> Gate:
    """Ripple heats and sparks: what the plate says of its power supply, to be read."""
    text = f"Its plate names a {bridge.name} bridge on {write(line_v)} V, or a form factor that one keeps."
    if share < _FAR_BACK:
        text = f"Fired back to {100 * share:.0f} % at rated volts: more ripple than usual. {text} Else a transformer."
    return confirm("plate.form_factor", "Made for a rectifier's ripple", False, text, "NEMA MG 1:2021 14.60, 14.61")
