"""How many motors one drive feeds: what is ahead of it carries them all."""

from __future__ import annotations

from vinegate.core.drive.facts import Drive
from vinegate.core.facts import Circuit


def motors_on(circuit: Circuit) -> int:
    """Motors alike on the circuit's drive, where it has or would have one; one where nothing is said."""
    return circuit.of("drive", Drive).motors or 1
