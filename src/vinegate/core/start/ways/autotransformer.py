"""An autotransformer, closed or open transition."""

from __future__ import annotations

from typing import Final

from vinegate.core.assumed import preset
from vinegate.core.start.connection import autotransformer
from vinegate.core.start.simulation import TAPS, Simulation, seek, starts_with_margin, two_connections
from vinegate.core.start.way import Way

_KEY: Final = "autotransformer"
_EXCITING_SHARE: Final = preset("exciting_share")


def _run(simulation: Simulation) -> None:
    """The lowest tap that starts with margin; the highest when none does."""

    def keeps(tap: float) -> None:
        two_connections(simulation, _KEY, f"tap {tap:g}", volts_before=tap, setting=f"{100 * tap:.0f} %", value=tap)

    def starts(tap: float, surely: bool) -> bool:
        return starts_with_margin(simulation, simulation.found[_KEY], f"tap {tap:g}", surely=surely)

    seek(simulation, _KEY, simulation.settings.taps, keeps, starts)


WAY = Way(
    key=_KEY,
    label="autotransformer",
    also=("auto-transformer", "RVAT", "AT", "auto-xfmr"),
    name="autotransformer",
    order=6,
    needs="three contactors and the transformer",
    stronger="a higher tap",
    gentler="a lower tap",
    reach=(TAPS[0], TAPS[-1]),
    phrase=lambda at, words: f"an autotransformer{' on its' if at else ''}{at}{' tap' if at else ''}",
    settings=(
        "start.tap",
        "start.changeover",
        "start.transition",
        "start.dead_time",
        "start.instantaneous_trip",
    ),
    sought=("tap", "changeover_s"),
    moment="start-changeover",
    lowers_volts=True,
    usual=True,
    connections=lambda plant, settings: tuple(
        autotransformer(f"tap {tap:g}", tap, -1j * _EXCITING_SHARE * plant.rated_current_pu) for tap in settings.taps
    ),
    run=_run,
)
