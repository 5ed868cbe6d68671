"""What the motor itself feeds into a fault."""

from __future__ import annotations

from vinegate.core.plate.locked_rotor import LockedRotor
from vinegate.core.sheet import Sheet
from vinegate.core.working import Figure


def fault_share(sheet: Sheet, inrush: LockedRotor | None) -> Figure | None:
    """What the motor feeds into a fault in the first cycle: about its locked-rotor current (IEC 60909-0 6.10)."""
    if inrush is None or inrush.high is None:
        return None
    return sheet.work(
        "motor_fault",
        "Motor's own share in a fault, first cycle",
        "I_M",
        inrush.high.value / 1000,
        "kA",
        formula=f"{inrush.high.symbol}/1000",
        inputs=(inrush.high,),
        source="IEC 60909-0:2016 6.10: about the locked-rotor current; on the line it counts where ratings are checked",
    )
