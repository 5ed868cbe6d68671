"""The spring-set brake alone, from full speed."""

from __future__ import annotations

from typing import Final

from vinegate.core.numbers import write
from vinegate.core.stop.asked import Asked
from vinegate.core.stop.friction import SETTINGS, SIZES, brake_course, brake_torque
from vinegate.core.stop.row import Acting, Doing, StopRow, row_of
from vinegate.core.stop.way import Handle, Way

_CAUTIONS: Final = {
    "drum": "Shoes wear unevenly and fade when hot; a worn or oily lining brakes less.",
    "disc": "Pads have no servo effect and fade less; worn or oily, they brake less.",
}
_BEFORE_GEAR: Final = " On the motor's shaft it holds through the gear: a broken gear or coupling lets the load go."


def _make(asked: Asked) -> StopRow:
    """Constant torque from running speed to rest, the lining at its worst; it holds without power."""
    marked, delay = brake_torque(asked), asked.stop.brake_delay_s or 0.0
    kind = {"drum": ", drum", "disc": ", disc"}.get(asked.stop.brake_kind or "", "")

    closes = f"Its springs close it {write(delay, 3)} s later" if delay else "Its springs close it"
    return row_of(
        asked,
        WAY,
        Doing(
            setting=f"{write(marked, 3)} N·m{kind}",
            course=lambda turning: brake_course(asked, turning),
            caution=_CAUTIONS.get(asked.stop.brake_kind or "", "A worn or oily lining brakes less.")
            + " Its release coil is live whenever the motor is; spring-set, it closes when power fails."
            + ("" if asked.stop.brake_side == "driven" else _BEFORE_GEAR),
            steps=(
                "The motor's contactor opens, and with it the release coil's circuit.",
                f"{closes}, and hold it while power is off.",
                "To release it by hand, secure the load first.",
            ),
            acting=lambda found: (Acting(name="brake", from_s=delay, to_s=found.time_s[-1]),),
        ),
    )


def _closes(_: Asked, row: StopRow) -> tuple[float, str]:
    """All that turned goes into the lining."""
    return row.outside_kj * 1000, "T_B·∫ω dt"


WAY = Way(
    key="brake",
    name="spring-set brake",
    also=("spring-applied brake", "mechanical brake", "friction brake", "brake motor"),
    phases=(3, 1, 0),
    make=_make,
    settings=SETTINGS,
    closes=_closes,
    handle=Handle(
        field="stop-brake_delay",
        label="Brake closes after",
        at=lambda row: row.acting[0].from_s if row.acting else None,
    ),
    sizes=(SIZES,),
)
