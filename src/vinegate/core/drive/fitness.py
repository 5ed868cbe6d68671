"""Fitness beside torque and amperes: a motor strapped to run fast, a load that must be held, rests, disturbance."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Final

from vinegate.core.drive.amperes import Asked, asked_at, soft_power
from vinegate.core.drive.duty import Row
from vinegate.core.drive.envelope import Laden
from vinegate.core.drive.need import Need
from vinegate.core.drive.ramps import Ramps
from vinegate.core.drive.rating import Rating, area_of, settled
from vinegate.core.grade import Gate, at_most, check, from_answer, on_site, rule
from vinegate.core.numbers import counted, write
from vinegate.core.plate.kind import Family
from vinegate.core.system_volts import SystemVolts
from vinegate.core.turning import Taken, Turns, more

_FAST: Final = 1.05
_FLUX: Final = (1.05, 1.1)  # what zone A allows for ever; now and then, or with its maker's word
_CORE_EXPONENT: Final = 1.5
_HIGH_M: Final = 2000.0


def strapped_gate(need: Need) -> Gate | None:
    """A base frequency above the plate's: core and fan lose more, against better cooling; its maker says."""
    times = need.top_hz / need.base_hz
    if times <= _FAST:
        return None
    key, name = "drive.fast", "Motor made for its base frequency"
    source = "core loss with k^1.5, fan power with k³; IEC TS 60034-25"
    if need.ratio == 1:
        text = f"At {write(need.top_hz, 3)} Hz no connection of its plate keeps its flux on {write(need.line_v, 3)} V."
        return rule(key, name, False, text, source, remedy="The plate's frequency, or a motor with such a connection.")
    text = (
        f"In the lower connection up to {write(need.top_hz, 3)} Hz its core loses "
        f"{times**_CORE_EXPONENT:.1f} times and "
        f"its fan takes {times**3:.1f} times as much; never across the line so, no by-pass"
    )
    if need.facts.fast is not None:
        return rule(key, name, need.facts.fast == "yes", f"{text}.", source, remedy="The plate's frequency.")
    turns = Turns(path="drive.fast", label="its maker's word on that speed", passes="yes", passes_as="yes", fails="no",
                  fails_as="no")  # fmt: skip
    return check(key, name, turns, f"{text}. Passes with {turns.label}.", source, remedy="Its maker's word.")


def flux_gate(need: Need) -> Gate | None:
    """A base frequency below the plate's: the same volts over fewer hertz press more flux through the iron."""
    base = need.facts.base_hz
    if base is None or base >= need.base_hz:
        return None
    flux = min(need.line_v / need.plate_v, 1.0) * need.base_hz / base
    low, high = _FLUX
    bears = Taken(label="the flux its iron bears", value=low, low=low, high=high, how="estimated", sense=1)
    text = f"Its volts end at {write(base, 3)} Hz, the plate's at {write(need.base_hz, 3)} Hz: "
    return at_most(
        "drive.flux", "Flux at the base frequency", flux, low, unit="×", rests=(bears,),
        sentence=f"{text}{write(flux, 3)} times the rated flux there.", room=lambda most: most - flux,
        source="flux with volts over hertz; IEC 60034-1:2022 7.3, NEMA MG 1-2021 12.44: what a plate allows of both",
        remedy="The plate's frequency as base frequency.",
    )  # fmt: skip


def stop_gate(need: Need) -> Gate | None:
    """A load that would turn the machine is not let go by its drive: held, then the brake."""
    hold = need.circuit.stop.hold or ("yes" if need.load.kind == "hoist" else "no")
    if hold == "no" or need.facts.stop_mode is None:
        return None
    met = need.facts.stop_mode == "hold"
    text = (
        "It ramps down, holds, and the brake closes."
        if met
        else "It would let the load go before the brake has closed."
    )
    return rule("drive.stop", "Drive stops as its load asks", met, text, "the stop's sheet has the brake",
                remedy="A ramp that holds at rest until the brake has closed.")  # fmt: skip


def rest_gate(supplied: Laden, rows: Sequence[Row], rating: Rating, asked: Asked, ramps: Ramps) -> Gate | None:
    """An overload in every period leaves less than the rating between: `√((t_p − o²·t_o)/(t_p − t_o))`."""
    need, soft = supplied.need, soft_power(supplied.need, rows)
    starts = need.circuit.start.starts_per_hour or 0.0
    if rating.rated_a is None or rating.plate_a is None or ramps.peak_for_s <= 0 or starts * rating.period_s < 3600:
        return None
    left = rating.rest_pu * rating.rated_a
    text = (
        f"Started {counted(starts, 'time')} an hour, each period has its overload: between them "
        f"{write(left, 3)} A are left, "
        f"{write(asked.amps, 3)} A are asked."
    )
    plate, rest = rating.plate_a, rating.rest_pu

    def room(share: float, *power: float) -> float:
        amps = asked_at(supplied, rows, power[0] / soft[0].value) if power else asked.amps
        return plate * share * rest - amps

    gate = at_most(
        "drive.rest", "Drive's rest between overloads", asked.amps, left, sentence=text, unit="A",
        source="NEMA ICS 7; IEC 61800-2; rms over the period no more than rated",
        remedy="A larger drive, or fewer starts.",
        rests=(*more(rating.left), *soft), room=room,
    )  # fmt: skip
    return settled(gate, rating, lambda share: room(share, *(one.high for one in soft)))


def emc_gate(need: Need) -> Gate | None:
    """A category holds for a screened lead of a stated length, and for a supply whose neutral is earthed."""
    said = need.facts.emc
    if said is None:
        return None
    key, name, source = "drive.emc", f"Category {said.upper()} holds as installed", "IEC 61800-3:2022"
    if need.facts.lead_kind == "single" and said != "c4":
        text = "Single wires to the motor: the category holds for a screened lead only."
        return rule(
            key, name, False, text, source, remedy="A screened, symmetric lead, clamped all round at both ends."
        )
    if need.job.supply.earthing == "it" and said in ("c1", "c2"):
        text = "On an IT supply its filter to earth is taken off, and the category with it."
        return rule(key, name, False, text, source, remedy="A drive whose category holds on IT supplies.")
    text = "It holds up to the length its maker states, the screen clamped all round at both ends, panel bonded."
    return from_answer(key, name, on_site(text, source))


def earthed_gate(need: Need) -> Gate | None:
    """Its filter and surge parts stand to earth, and see line volts where no neutral is grounded."""
    volts = need.job.volts_at(need.circuit.wiring.board)
    floats = isinstance(volts, SystemVolts) and not volts.kind and volts.neutral_v is None
    if not floats and need.job.supply.earthing != "it":
        return None
    text = "Its maker names systems whose neutral is not grounded, and its filter's links to earth are set for one."
    return from_answer("drive.earthed", "Drive made for the supply's earthing", on_site(text, "IEC 61800-5-1:2022"))


def rings_gate(need: Need) -> Gate | None:
    """A wound rotor runs from a drive with its rings shorted at the rings themselves."""
    if need.circuit.plate.family is not Family.WOUND:
        return None
    text = "Its rings are shorted at the rings, brush gear lifted or kept in order; its low leakage may ask a reactor."
    return from_answer("drive.rings", "Slip rings shorted", on_site(text, "IEC TS 60034-25; NEMA MG 1 part 30"))


def altitude_gate(need: Need) -> Gate | None:
    """Above 2000 m it is not only amperes: its insulation distances, and supplies earthed at a corner."""
    height = area_of(need)[1]
    if height <= _HIGH_M:
        return None
    text = (
        f"At {write(height)} m its insulation and its supply's earthing are for its maker to confirm, beside "
        "its amperes."
    )
    return from_answer("drive.altitude", "Drive made for the height", on_site(text, "its maker's word above 2000 m"))
