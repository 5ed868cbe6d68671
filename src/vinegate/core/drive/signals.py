"""What is wired to the drive: inputs, outputs and network words, which the starter's drawing takes."""

from __future__ import annotations

from typing import TYPE_CHECKING

from vinegate.core.records import dataclass

if TYPE_CHECKING:
    from vinegate.core.drive.need import Need
    from vinegate.core.drive.stage import Driven


@dataclass(frozen=True, slots=True, kw_only=True)
class Signal:
    """An input, output or network word of the drive: `kind` in or out, what it does, how it behaves."""

    kind: str
    name: str
    behaves: str


def signals_of(need: Need, driven: Driven) -> tuple[Signal, ...]:
    """What is wired to it: the starter's drawing takes these."""
    held = need.facts.power_back == "auto"
    found = [
        Signal(
            kind="in",
            name="Run",
            behaves="held: it starts again when power returns" if held else "pulsed: it waits for a command",
        ),
        Signal(kind="in", name="Stop", behaves="breaks: stops when the wire does"),
        Signal(kind="in", name="Safe torque off", behaves="two channels; no isolation"),
        Signal(kind="in", name="Fault reset", behaves="pulsed, by hand"),
        Signal(kind="in", name="Reference", behaves="4 to 20 mA, live zero"),
        Signal(kind="out", name="Ready", behaves="closed while no fault stands"),
        Signal(kind="out", name="Running", behaves="closed while the motor is fed"),
        Signal(kind="out", name="Fault", behaves="opens on a fault or without power"),
        Signal(kind="network", name="Control word", behaves="run, stop, direction, reset; times out as reference lost"),
        Signal(kind="network", name="Status word", behaves="ready, running, fault, at speed, speed, amperes"),
    ]
    if need.circuit.start.reversing == "yes":
        found.insert(1, Signal(kind="in", name="Direction", behaves="selector; taken only at rest or along the ramp"))
    if need.circuit.protection.thermistor == "yes":
        found.insert(4, Signal(kind="in", name="Winding sensor", behaves="trips at its resistance"))
    if need.load.kind == "hoist" or need.circuit.stop.hold in ("yes", "rest"):
        found.append(
            Signal(
                kind="out",
                name="Brake",
                behaves="closes its contactor when torque is proved; own supply, never the output",
            )
        )
    if driven.cooling.kind == "blower":
        found.append(Signal(kind="in", name="Blower runs", behaves="permits the run; its own overload and interlock"))
    return tuple(found)
