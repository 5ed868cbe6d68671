"""How the starter is commanded, and what a drawing is altered in to see what breaks."""

from __future__ import annotations

import re
from typing import Final

from vinegate.core import quantity as q
from vinegate.core.field import Fact, Facts, choice, field, measure, whole
from vinegate.core.quantity import QuantityError

_YES_NO: Final = (("yes", "yes"), ("no", "no"))
_CUT: Final = re.compile(r"[\w.-]{1,12} in [\w.-]{1,12}")


def read_cuts(text: str) -> tuple[str, ...]:
    """`2M in S; STOP in M`: contacts bridged. Raises QuantityError.

    >>> read_cuts("2M in S;  STOP in M")
    ('2M in S', 'STOP in M')
    """
    found = tuple(" ".join(part.split()) for part in re.split(r"[;\n]", text) if part.strip())
    for part in found:
        if not _CUT.fullmatch(part):
            raise QuantityError(f"“{part}” is no contact: write it like 2M in S, several parted by semicolons.")
    return found


class Starter(Facts):
    """Every field may be missing."""

    command: str | None = field(
        choice("Commanded by", (("three-wire", "buttons, three wires"), ("two-wire", "a held contact, two wires")),
               help="Empty: buttons. Two wires start it by themselves when power returns.")
    )  # fmt: skip
    stations: int | None = field(whole("Stations", 1, 6, example="2", help="With a start and a stop each. Empty: one."))
    emergency: str | None = field(choice("Emergency stop", _YES_NO, help="Beside the stops; latched."))
    jog: str | None = field(choice("Jog", _YES_NO, help="Runs while it is pressed, and never seals."))
    hands: str | None = field(choice("Hand, off, auto", _YES_NO, help="By a selector, with a controller's command."))
    lock: str | None = field(choice("Mechanical lock", _YES_NO, help="Mechanical, between contactors that never meet."))
    timer_s: float | None = field(
        measure("Timer", q.SECONDS, "t_x", example="3 s", help="Of the change-over. Empty: the start's sheet.")
    )
    bridged: tuple[str, ...] | None = field(
        Fact(label="Contacts bridged", read=read_cuts, example="2M in S",
             help="To see what breaks: such a drawing never passes.")
    )  # fmt: skip
