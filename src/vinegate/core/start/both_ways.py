"""Whether a machine that is to reverse can."""

from __future__ import annotations

from typing import Final

from vinegate.core.facts import Circuit
from vinegate.core.grade import Gate, confirm, rule
from vinegate.core.plate.kind import SWITCHED, word
from vinegate.core.plate.rotation import one_way

_SOURCE: Final = "IEC 60034-8:2007; NEMA MG 1:2021 2.24"
_SINGLE: Final = "Fitzgerald, 6th ed., chapter 9"


def both_ways(circuit: Circuit) -> tuple[Gate, ...]:
    """Nothing where it turns one way, or where nothing says that it cannot turn both."""
    if circuit.start.reversing != "yes":
        return ()
    kind, stamped = circuit.plate.kind or "", circuit.plate.rotation or ""
    if kind == "shaded-pole":
        return (
            rule("start.reverses", "Turns both ways", False,
                 "Its shading rings fix the way it turns: no exchange of leads reverses it.", _SINGLE,
                 remedy="A motor of another kind, or a gear that reverses."),
        )  # fmt: skip
    found = []
    if kind in SWITCHED:
        text = (
            f"A {word(kind)} motor reverses by its start winding, whose leads are brought out "
            "apart, and only from near rest: while it turns that winding is off, and it runs on as before."
        )
        found.append(confirm("start.reverses", "Turns both ways", False, text, _SINGLE))
    if one_way(stamped):
        text = f"Its plate names one way, {stamped}: a fan, a seal or a bearing may be made for it. Ask its maker."
        found.append(confirm("start.one_way", "Made to turn both ways", False, text, _SOURCE))
    return tuple(found)
