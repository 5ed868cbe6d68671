"""What a rule set decides of the five devices: the protocol, and figures and gates that both share."""

from __future__ import annotations

from typing import Final, Protocol

from vinegate.core.gate import Gate, Verdict, unknown
from vinegate.core.protection.bands import Band
from vinegate.core.protection.hold import Hold, hold
from vinegate.core.protection.need import Device, Need
from vinegate.core.quantity import write
from vinegate.core.sheet import Sheet
from vinegate.core.working import Figure, Provenance


class Sizing(Protocol):
    """One rule set's devices. Each puts its working and gates on its sheet and returns its row."""

    def short_circuit(self, sheet: Sheet, need: Need) -> tuple[Device, Band | None]:
        """The short-circuit device, and its band where one can be drawn."""
        ...

    def conductors(self, sheet: Sheet, need: Need, overload_a: Figure | None) -> Device: ...

    def grounding(self, sheet: Sheet, need: Need, band: Band | None, size: str | None) -> Device:
        """Beside phase conductors of `size`: those of the run, or the advised ones where those are not tabulated."""
        ...

    def disconnect(self, sheet: Sheet, need: Need) -> Device: ...

    def starter(self, sheet: Sheet, need: Need) -> Device: ...


ELECTRONIC: Final = ("soft-starter", "soft-ramp", "drive")


def electronic_starter(need: Need, source: str, path: str) -> Device:
    """A soft starter or drive is rated in amperes by its maker, for the start asked of it."""
    used, plate = need.used, need.plate
    amps = plate.shown if plate else "–"
    begins = f", {used.times_rated:.1f} × for {write(used.time_s or 0, 2)} s" if used and used.times_rated else ""
    text = f"Rated by its maker: {amps} running{begins}; bypass and line contactors by its listing."
    return Device(
        key="starter",
        name="Drive" if need.method == "drive" else "Soft starter",
        current=plate,
        rule="maker's rating for this start",
        asked=f"≥ {amps}{begins}",
        advised="by maker",
        chosen="by maker",
        gates=(
            plain_gate(
                "starter", "Starter", Verdict.AJAR, text, source, estimated=True,
                remedy="Confirm its rating for this start with its maker.",
            ),
        ),
        path=path,
    )  # fmt: skip


def nothing(key: str, name: str, rule: str, lacks: tuple[str, ...]) -> Device:
    """A device that cannot be sized yet, with the gate that says what is missing."""
    return Device(
        key=key,
        name=name,
        current=None,
        rule=rule,
        asked="–",
        advised="–",
        chosen="–",
        gates=(unknown(f"protection.{key}", name, lacks),),
    )


def lacks_current(sheet: Sheet, need: Need, words: str) -> tuple[str, ...]:
    """Name what the sizing current is missing."""
    wanted = [("plate.full_load_current", words), ("plate.power", "power"), ("plate.volts", "plate volts")]
    plate = need.circuit.plate
    there = (plate.full_load_current, plate.power_w, plate.volts)
    absent = [want for want, value in zip(wanted, there, strict=True) if value is None]
    return sheet.needs(absent or wanted[:1], "the devices' sizes")


def table(sheet: Sheet, key: str, name: str, symbol: str, value: float, unit: str, source: str) -> Figure:
    """A tabulated figure on the sheet."""
    return sheet.given(key, name, symbol, value, unit, provenance=Provenance.TABLE, source=source)


def plain_gate(
    key: str,
    name: str,
    verdict: Verdict,
    sentence: str,
    source: str,
    *,
    value: float | None = None,
    limit: float | None = None,
    least: bool = False,
    unit: str = "A",
    remedy: str = "",
    estimated: bool = False,
) -> Gate:
    """A gate of a device; `least` when the value must reach the limit rather than stay below it."""
    margin = None
    if value is not None and limit is not None:
        margin = value - limit if least else limit - value
    return Gate(
        key=f"protection.{key}",
        name=name,
        verdict=verdict,
        sentence=sentence,
        source=source,
        value=value,
        limit=limit,
        margin=margin,
        unit=unit if value is not None else "",
        remedy="" if verdict is Verdict.OPEN else remedy,
        estimated=estimated,
    )


def holds_gate(need: Need, band: Band | None, what: str) -> Gate:
    """Whether the device lets the motor start: acceleration, first-cycle peak and reclosing spike."""
    key, name = "holds", "Holds the start"
    if band is None:
        return unknown(f"protection.{key}", name, ("a rating that is tabulated",))
    found = hold(need, band)
    if found.holds is None or (found.share is None and band.earliest):
        return unknown(f"protection.{key}", name, ("the start, simulated: supply, machine and load",))
    said, parts = _hold_words(found), f"{band.source}; shares of least opening time added along the start"
    if found.holds:
        used = max(found.share or 0.0, (found.peak_a or 0.0) / found.pickup_a if found.pickup_a else 0.0)
        verdict = Verdict.OPEN if used <= 0.8 else Verdict.AJAR
        return plain_gate(
            key,
            name,
            verdict,
            f"{what} carries it: {said}.",
            parts,
            estimated=True,
            remedy="Compare the maker's curve with the start.",
        )
    sure = band.estimated or found.share == float("inf")
    verdict = Verdict.AJAR if sure and (found.share or 0.0) > 1 and _peak_fits(found) else Verdict.SHUT
    text = f"{what} may open: {said}."
    if verdict is Verdict.AJAR:
        text = f"{what} is not sure to carry it by what the standard promises: {said}."
    remedy = "A larger rating where the rules allow it, a slower device, or a gentler start; or the maker's curve."
    return plain_gate(key, name, verdict, text, parts, estimated=True, remedy=remedy)


def _peak_fits(found: Hold) -> bool:
    return found.peak_a is None or found.pickup_a is None or found.peak_a <= found.pickup_a


def _hold_words(found: Hold) -> str:
    parts = []
    if found.share is not None:
        if found.share == float("inf"):
            parts.append("its current passes what is promised to be carried")
        else:
            parts.append(f"the start uses {write(100 * found.share, 2)} % of its least opening time")
    if found.peak_a is not None and found.pickup_a is not None:
        parts.append(f"peak {found.peak_a:.0f} A as rms, trips from {found.pickup_a:.0f} A")
    return ", ".join(parts)


def clears_gate(need: Need, band: Band | None, within_s: float, source: str) -> Gate:
    """Whether it surely opens on a fault between lines at the motor's end, the least that hurts."""
    key, name = "clears", "Clears a fault at the motor"
    if band is None or need.far is None:
        lacks = [] if need.far is not None else ["the supply and the run"]
        return unknown(f"protection.{key}", name, (*lacks, *([] if band else ["a rating that is tabulated"])))
    least = 1000 * need.far.value * 3**0.5 / 2
    asked = band.sure_a(within_s)
    if asked == float("inf"):
        return unknown(f"protection.{key}", name, ("the device's own curve",))
    estimated = band.estimated or need.far.soft
    text = f"Lines touching at the motor draw {least:.0f} A; it opens within {write(within_s)} s from {asked:.0f} A."
    verdict = Verdict.SHUT if least < asked else Verdict.AJAR if least < 1.25 * asked else Verdict.OPEN
    return plain_gate(
        key,
        name,
        verdict,
        text,
        source,
        value=least,
        limit=asked,
        least=True,
        estimated=estimated,
        remedy="A larger or shorter run, or a device that opens at less.",
    )


_FAULT_TOLERANCE: Final = 1.25


def rating_gate(need: Need, source: str) -> Gate:
    """The assembly's short-circuit rating against the fault current where it stands."""
    key, name = "short_circuit_rating", "Short-circuit rating"
    rated = need.circuit.protection.short_circuit_rating_a
    lacks = [] if need.fault is not None else ["the supply"]
    if rated is None:
        lacks.append("the assembly's short-circuit rating")
    if rated is None or need.fault is None:
        return unknown(f"protection.{key}", name, tuple(lacks))
    own = need.motor_fault.value if need.motor_fault else 0.0
    fault = 1000 * (need.fault.value + own)
    worst = fault * (_FAULT_TOLERANCE if need.fault.soft else 1.0)
    verdict = Verdict.SHUT if fault > rated else Verdict.AJAR if worst > rated else Verdict.OPEN
    text = f"{write(fault / 1000, 3)} kA at its board, its own motor counted, rated {write(rated / 1000, 3)} kA."
    return plain_gate(
        key,
        name,
        verdict,
        text,
        source,
        value=fault,
        limit=rated,
        estimated=need.fault.soft,
        remedy="An assembly with a higher rating, or a current-limiting device listed with it.",
    )


def coordination_gate(need: Need, source: str) -> Gate:
    """Type 1 or 2: a tested combination's, to be confirmed."""
    key, name = "coordination", "Coordination with the starter"
    said = need.circuit.protection.coordination
    if said is None:
        return unknown(f"protection.{key}", name, ("type 1 or 2, from the maker's tested combination",))
    text = {"1": "Type 1: after a fault the starter may need repair.", "2": "Type 2: fit for service after a fault."}
    return plain_gate(key, name, Verdict.OPEN, text[said], source)


def in_sight_gate(need: Need, source: str) -> Gate:
    """In sight of the motor, and lockable open."""
    key, name = "in_sight", "Disconnect in sight, lockable"
    sight, lock = need.circuit.protection.in_sight, need.circuit.protection.lockable
    if sight == "yes":
        text = "In sight of the motor" + (", lockable open." if lock == "yes" else ".")
        verdict = Verdict.OPEN if lock == "yes" else Verdict.AJAR
        return plain_gate(key, name, verdict, text, source, remedy="Make it lockable: whoever works on it needs that.")
    if sight is None or lock is None:
        lacks = [text for text, value in (("whether it is in sight", sight), ("whether it locks", lock)) if not value]
        return unknown(f"protection.{key}", name, tuple(lacks))
    if lock == "yes":
        text = "Out of sight, lockable open: allowed only where one in sight is impracticable or adds hazard."
        return plain_gate(key, name, Verdict.AJAR, text, source, remedy="A second switch at the motor.")
    text = "Out of sight of the motor, and it cannot be locked."
    return plain_gate(key, name, Verdict.SHUT, text, source, remedy="A lockable switch in sight of the motor.")
