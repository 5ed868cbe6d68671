"""What feeds the circuit: the source, its transformer, the run to the motor, and the limits to hold."""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Annotated

from vinegate.core import quantity as q
from vinegate.core.field import Fact, Facts, choice, measure, whole
from vinegate.core.quantity import QuantityError
from vinegate.core.tables import load


@dataclass(frozen=True, slots=True)
class FaultLevel:
    """A fault level given as amperes or as volt-amperes; the other is None."""

    current_a: float | None
    power_va: float | None


def read_fault_level(text: str) -> FaultLevel:
    """`14 kA` or `300 MVA`. Raises QuantityError, also for a bare number: either could be meant.

    >>> read_fault_level("14 kA").current_a, read_fault_level("300 MVA").power_va
    (14000.0, 300000000.0)
    """
    if re.search(r"VA\s*$", text, re.I):
        return FaultLevel(None, q.FAULT_POWER.read(text))
    if re.search(r"(?:A|amps?|amperes?)\s*$", text, re.I):
        return FaultLevel(q.FAULT_CURRENT.read(text), None)
    raise QuantityError(f"“{text.strip()}” needs its unit: write it like 14 kA or 300 MVA.")


def read_system_volts(text: str) -> float:
    """Line-to-line volts of `480`, `480Y/277`, `400/230 V`. Raises QuantityError.

    >>> read_system_volts("480Y/277 V"), read_system_volts("230/400")
    (480.0, 400.0)
    """
    unit = "kV" if re.search(r"kV\s*$", text, re.I) else "V"
    body = re.sub(r"\s*k?V\s*$", "", text.strip(), flags=re.I)
    parts = [re.sub(r"[YyΔ∆]\s*$", "", part).strip() for part in body.split("/")]
    volts = sorted(q.VOLTAGE.read(f"{part} {unit}") for part in parts if part)
    if not volts or len(volts) > 2:
        raise QuantityError("System volts are written like 480Y/277 or 400/230.")
    if len(volts) == 2 and abs(volts[1] / volts[0] - 3**0.5) > 0.03:
        raise QuantityError(f"{text.strip()}: line volts are √3 × phase volts, here {volts[0] * 3**0.5:.0f} V.")
    return volts[-1]


def read_x_over_r(text: str) -> float:
    """`6`, `X/R 6` or `R/X 0.25`. Raises QuantityError.

    >>> read_x_over_r("R/X 0.25"), read_x_over_r("6")
    (4.0, 6.0)
    """
    body = text.strip()
    inverse = re.match(r"R\s*/\s*X\s*[:=]?\s*", body, re.I)
    plain = re.match(r"X\s*/\s*R\s*[:=]?\s*", body, re.I)
    if inverse:
        (number,) = [q.read_numbers(body[inverse.end() :])[-1]]
        if number <= 0:
            raise QuantityError("R/X is above zero: write it like R/X 0.25.")
        return q.X_OVER_R.read(repr(1 / number))
    return q.X_OVER_R.read(body[plain.end() :] if plain else body)


class Supply(Facts):
    """The source of a job: what the utility says and what stands on the transformer's plate."""

    volts_v: Annotated[
        float | None,
        Fact(
            label="System volts",
            read=read_system_volts,
            symbol="U",
            unit="V",
            example="480Y/277 or 400/230",
            help="At the board, between lines.",
        ),
    ] = None
    frequency_hz: Annotated[float | None, measure("Frequency", q.FREQUENCY, "f")] = None
    fault_level: Annotated[
        FaultLevel | None,
        Fact(
            label="Utility fault level",
            read=read_fault_level,
            symbol="S_sc",
            unit="",
            example="14 kA or 300 MVA",
            help="Ahead of the transformer, from the utility.",
        ),
    ] = None
    fault_level_volts_v: Annotated[
        float | None,
        measure("at", q.PRIMARY_VOLTAGE, "U_1", help="The volts it is stated at; a level in MVA needs none."),
    ] = None
    fault_x_over_r: Annotated[
        float | None,
        Fact(label="Utility X/R", read=read_x_over_r, symbol="X/R", example="10"),
    ] = None
    transformer_power_va: Annotated[
        float | None,
        measure("Transformer", q.APPARENT_POWER, "S_T", help="Leave empty where the fault level is at the board."),
    ] = None
    transformer_impedance_pu: Annotated[float | None, measure("Impedance", q.IMPEDANCE_PERCENT, "z")] = None
    transformer_x_over_r: Annotated[
        float | None,
        Fact(label="Transformer X/R", read=read_x_over_r, symbol="X/R", example="4, or R/X 0.25"),
    ] = None


class Limits(Facts):
    """What the job will not exceed."""

    dip_pu: Annotated[
        float | None,
        measure("Dip limit at the board", q.PERCENT_LIMIT, "ΔU_max", help="The utility's, or your own."),
    ] = None
    dip_source: Annotated[
        str | None,
        Fact(label="Set by", read=str.strip, example="supply contract", help="Whose limit it is."),
    ] = None
    terminal_pu: Annotated[
        float | None,
        measure(
            "Least volts at the terminals",
            q.PERCENT_LIMIT,
            "U_min",
            example="85 %",
            help="Share of the plate volts the motor must keep while starting.",
        ),
    ] = None


METALS = (("copper", "copper"), ("aluminium", "aluminum"))
RACEWAYS = (("pvc", "PVC conduit"), ("aluminium", "aluminum conduit"), ("steel", "steel conduit"))


def _size(text: str) -> str:
    body = " ".join(text.strip().split())
    body = re.sub(r"\s*(?:mm2|mm²|sq\s?mm|mm\^2)$", " mm²", body, flags=re.I)
    body = re.sub(r"^#?\s*(\d+(?:/0)?)\s*(?:awg)?$", r"\1 AWG", body, flags=re.I) if "mm²" not in body else body
    body = re.sub(r"^(\d{3,4})\s*(?:AWG|k?cmil|MCM)$", r"\1 kcmil", body, flags=re.I)
    body = body.replace(",", ".") if "mm²" in body else body
    known = {
        row["size"].casefold(): row["size"] for name in ("conductor_nec", "conductor_iec") for row in load(name).rows
    }
    found = known.get(body.casefold())
    if found is None:
        raise QuantityError(f"“{text.strip()}” is not a tabulated size: write it like 1/0 AWG, 250 kcmil or 35 mm².")
    return found


class Wiring(Facts):
    """The run from the board to the motor."""

    size: Annotated[
        str | None,
        Fact(label="Conductor size", read=_size, example="1/0 AWG or 35 mm²", help="One phase conductor."),
    ] = None
    metal: Annotated[str | None, choice("Metal", METALS)] = None
    raceway: Annotated[str | None, choice("Raceway", RACEWAYS, rules="nec")] = None
    length_m: Annotated[float | None, measure("Length", q.LENGTH, "l", help="One way, board to motor.")] = None
    sets: Annotated[
        int | None,
        whole("Sets in parallel", 1, 12, symbol="m", example="1", help="Conductors per phase."),
    ] = None
