"""A direct-current machine behind its bridge: what it is fed by, and what its first moment draws from the lines."""

from __future__ import annotations

import math
from typing import Final

import numpy as np

from vinegate.core.facts import Circuit, Job
from vinegate.core.machine.curves import run_at
from vinegate.core.machine.describe import Machine
from vinegate.core.machine.simple import series_share
from vinegate.core.plate.kind import Family
from vinegate.core.plate.rated import Rated
from vinegate.core.rectifier import SOURCE, Armature, bridge_of
from vinegate.core.sheet import Sheet
from vinegate.core.start.simulation import USUAL_LIMIT
from vinegate.core.turning import Taken, point
from vinegate.core.working import Figure, Provenance

_OHMS: Final = (0.5, 2.0)
"""Of its armature's estimated resistance: between these its power factor at rest lies."""


def armature_of(job: Job, circuit: Circuit, rated: Rated, machine: Machine | None) -> Armature | None:
    """Armature and bridge; None of any other machine, or while a part of the plate is missing or no machine's."""
    if circuit.plate.family is not Family.DC or machine is None or rated.current is None or rated.speed is None:
        return None
    held = float(run_at(machine.circuit, np.array([1.0]), volts_v=machine.volts_v).line_current_a[0])
    if held <= 0:  # what stands on its plate is no machine's: its own sheet says so
        return None
    return Armature(
        bridge=bridge_of(job, circuit),
        volts_v=machine.volts_v,
        ohms=machine.volts_v / held,
        rated_a=rated.current.value,
        rated_rad_s=rated.speed.value * math.pi / 30,
        rated_nm=machine.rated_torque_nm,
        series=series_share(circuit.plate.kind),
    )


def at_first(sheet: Sheet, circuit: Circuit, rated: Figure, armature: Armature, line_v: float) -> tuple[Taken, Taken]:
    """Amperes behind the bridge with the armature on full volts, of which its limit is a share; and its power factor
    at rest, where the limit flows through the armature's ohms alone.
    """
    said, bridge = circuit.start.drive_limit, armature.bridge
    limit = said or USUAL_LIMIT
    times = sheet.given("bridge_limit", "Drive's current limit, of rated", "k_D", limit, "",
                        provenance=Provenance.STATED if said else Provenance.ASSUMED,
                        source="entered" if said else "usual of drives", fact="start.drive_limit")  # fmt: skip
    share = sheet.given("bridge_rms", f"Line amperes of a {bridge.name} bridge", "k_B", bridge.rms, "",
                        provenance=Provenance.TABLE, source=SOURCE)  # fmt: skip
    sheet.work(
        "bridge_line", "Line amperes at the limit", "I_L", limit * bridge.rms * armature.rated_a, "A",
        formula=f"k_D·k_B·{rated.symbol}", inputs=(times, share, rated), source=SOURCE,
    )  # fmt: skip
    at_rest = limit * armature.rated_a * armature.ohms / (bridge.ideal * line_v)
    factor = min(at_rest, 1.0)
    return (
        point(armature.volts_v / armature.ohms, label="what its bridge draws", unit="A"),
        Taken(label="its power factor at rest", value=factor, low=max(_OHMS[0] * factor, 0.01),
              high=min(_OHMS[1] * factor, 1.0), how="estimated"),
    )  # fmt: skip
