"""The volts that are left for the motor behind a drive, and the frequency up to which they keep its flux."""

from __future__ import annotations

import math
from typing import Final

from vinegate.core.assumed import assume
from vinegate.core.drive.facts import Drive
from vinegate.core.drive.need import Need, phases_of, stamped
from vinegate.core.grade import Gate, at_least
from vinegate.core.numbers import write
from vinegate.core.plate.rated import USUAL_POWER_FACTOR
from vinegate.core.records import dataclass
from vinegate.core.tables import load
from vinegate.core.turning import Taken
from vinegate.core.working import Figure, Provenance

_OUTPUT: Final = 3 / math.pi  # 0.955: the bus of a six-pulse bridge over √2, third-harmonic injection
_BOOSTED: Final = 1.0  # of the line: with little reactance the capacitor lifts the bus at full load
_SOURCE: Final = "Mohan, Power Electronics, 3rd ed., 5.6 and 8.4; with third-harmonic injection"


@dataclass(frozen=True, slots=True, kw_only=True)
class Ahead:
    """Lines of what stands ahead of its rectifier: the line's volts, the input's current and its displacement at the
    motor's rated power, the reactance of a choke and all of it, per cent on that current; the source's per unit.
    """

    line: Figure
    displacement: Figure
    input_rated: Figure
    choke: Figure
    whole: Figure
    source_pu: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Volts:
    """At the motor, between lines: the most, least and highest that may be left; full flux up to `corner_hz`."""

    most_v: float
    low_v: float
    high_v: float
    corner_hz: float
    ahead: Ahead


CHOKES_PU: Final = (0.02, 0.03, 0.05)
"""The least, the usual and the largest choke of a drive's own rating, per unit; assumed, as makers offer them."""
_LIFTED: Final = "Its capacitor may lift it to the line's volts where little reactance stands ahead."
_REGULATED: Final = "A generator's regulator holds the volts at its board: its own reactance costs none."
USUAL_CHOKE: Final = "usual; 2 to 5 % are made"


def _bridge(need: Need, ahead: Ahead) -> tuple[Figure, float]:
    """The most its bridge makes of the line behind this reactance, and that as a share of the line."""
    active, regulated = need.facts.front_end == "active", need.job.on_standby
    line, x = ahead.line, ahead.choke if regulated else ahead.whole
    rectified = 1.0 if active else _OUTPUT * (1 - math.pi / 6 * x.value / 100)
    best = need.sheet.work(
        "output_v", "Largest volts it can make", "U_D", need.line_v * rectified, "V",
        formula="U" if active else f"(3/π)·U·(1−π/6·{x.symbol}/100)", inputs=(line,) if active else (line, x),
        source="an active front end holds its bus up" if active else _SOURCE,
        provenance=Provenance.ASSUMED if active else None,
        note="" if active else _REGULATED if regulated else _LIFTED,
    )  # fmt: skip
    return best, rectified


def volts_left(need: Need) -> Volts:
    """Put it on the sheet: line, reactance, rectifier and filter, one line each."""
    sheet, facts = need.sheet, need.facts
    ahead = _reactance(need)
    best, rectified = _bridge(need, ahead)
    row = load("drive_filter").find(kind=facts.filter or "none")
    assert row is not None
    drop = sheet.given(
        "filter_drop",
        "Drop of what stands at its output",
        "d_f",
        float(row["drop"]),
        "%",
        provenance=Provenance.ASSUMED,
        source=load("drive_filter").source if float(row["drop"]) else "nothing stands there",
    )
    most = sheet.work(
        "most_v", "Volts left for the motor", "U_m", best.value * (1 - drop.value / 100), "V",
        formula="U_D·(1−d_f/100)", inputs=(best, drop), source="the lead's resistance counts with the stator's",
    )  # fmt: skip
    base = sheet.given("plate_hz", "Plate frequency", "f_N", need.base_hz, "Hz", **stamped(need.rated.frequency))
    wound = sheet.given("plate_v", "Volts of its connection", "U_N", need.plate_v, "V", **stamped(need.rated.volts))
    corner = sheet.work(
        "corner", "Full flux up to", "f_k", base.value * most.value / wound.value, "Hz",
        formula="f_N·U_m/U_N", inputs=(base, most, wound), source="flux goes with volts over frequency",
    )  # fmt: skip
    ends = [1 - float(row[name]) / 100 for name in ("drop_high", "drop_low")]
    open_size = choke_ac(need) and facts.choke_size_pu is None and facts.front_end != "active"
    more = CHOKES_PU[2] - CHOKES_PU[1] if open_size else 0.0
    return Volts(
        most_v=most.value,
        low_v=need.line_v * (rectified - _OUTPUT * math.pi / 6 * more) * ends[0],
        high_v=need.line_v * max(_BOOSTED, rectified) * ends[1],
        corner_hz=corner.value,
        ahead=ahead,
    )


def _reactance(need: Need) -> Ahead:
    """Source and choke ahead, on the drive's fundamental at the motor's rated power."""
    sheet = need.sheet
    line = sheet.given("line_v", "Line volts at the drive", "U", need.line_v, "V", source="the board's")
    efficiency = assume(sheet, "drive_efficiency", "efficiency", "Drive's efficiency", "η_D")
    displacement = assume(sheet, "drive_cos_phi", "cos_phi", "Displacement of its input", "cosφ_1")
    motor_w = need.motors * need.power_w / motor_efficiency(need)
    input_kw = sheet.given("motor_input", "Motor's input at rated load", "P_1", motor_w / 1000, "kW",
                           source="plate power over its efficiency", provenance=Provenance.ESTIMATED)  # fmt: skip
    root, said = phases_of(need)
    fundamental = sheet.work(
        "input_rated", "Input current at rated load, fundamental", "I_1N",
        1000 * input_kw.value / (root * line.value * efficiency.value * displacement.value), "A",
        formula=f"1000·P_1/({said}U·η_D·cosφ_1)", inputs=(input_kw, line, efficiency, displacement),
        source=f"P = {said}U·I·cosφ",
    )  # fmt: skip
    source_pu = fundamental.value / need.fault_a if need.fault_a else 0.01
    source = sheet.given(
        "source_x", "Reactance of the supply, on that current", "x_s", 100 * source_pu, "%",
        provenance=Provenance.ESTIMATED if need.fault_a else Provenance.ASSUMED,
        source="current over the fault current at the board" if need.fault_a else "1 %, until the fault level is known",
    )  # fmt: skip
    choke_size_pu, entered = choke_ac(need), need.facts.choke_size_pu is not None
    choke = sheet.given(
        "choke_x", "Reactance of a choke ahead", "x_c", 100 * choke_size_pu, "%",
        provenance=Provenance.STATED if entered or not choke_size_pu else Provenance.ASSUMED,
        source=("entered" if entered else USUAL_CHOKE) if choke_size_pu else "none ahead of it",
        fact="drive.choke_size",
    )  # fmt: skip
    whole = sheet.work("ahead_x", "Reactance ahead of the rectifier", "x", source.value + choke.value, "%",
                       formula="x_s+x_c", inputs=(source, choke), source="in series")  # fmt: skip
    return Ahead(line=line, displacement=displacement, input_rated=fundamental, choke=choke, whole=whole,
                 source_pu=source_pu)  # fmt: skip


def choke_ac(need: Need) -> float:
    """Reactance of a choke ahead of the rectifier, per unit; one in the bus drops no mean volts."""
    if need.facts.choke != "ac":
        return 0.0
    return choke_size(need.facts)


def choke_size(facts: Drive) -> float:
    """Reactance of its choke, wherever it stands, per unit of its own rating."""
    return CHOKES_PU[1] if facts.choke_size_pu is None else facts.choke_size_pu


def motor_efficiency(need: Need) -> float:
    """Stamped, else from the plate's power, volts, amperes and power factor (the usual where that is not stamped)."""
    plate = need.circuit.plate
    if plate.efficiency_pu:
        return plate.efficiency_pu
    amps, factor = need.rated.current, plate.power_factor or USUAL_POWER_FACTOR
    assert amps
    assert need.rated.volts
    found = need.power_w / (math.sqrt(3) * need.rated.volts.value * amps.value * factor)
    return min(max(found, 0.6), 0.97)


def volts_gate(need: Need, volts: Volts, fastest_hz: float) -> Gate:
    """Volts at the motor at its fastest: what its zone asks, up to the frequency where they end."""
    asked_hz = min(fastest_hz, need.top_hz)
    wanted = need.plate_v * asked_hz / need.base_hz
    share = 100 * volts.most_v / wanted
    zone = 100 * (1 - need.rules.zone_pu[1])
    loss = 100 * (1 - min(share / 100, 1.0))
    taken = Taken(label="the bus under load", value=share, low=100 * volts.low_v / wanted,
                  high=100 * volts.high_v / wanted, how="estimated")  # fmt: skip
    more = (
        f": flux is kept up to {write(volts.corner_hz, 3)} Hz, above it about {loss:.0f} % more current"
        if loss >= 1
        else ""
    )
    return at_least(
        "drive.volts",
        "Volts behind the drive",
        share,
        zone,
        sentence=f"{write(volts.most_v, 3)} V are left of {write(need.line_v, 3)} V at {write(asked_hz, 3)} Hz{more}.",
        source=need.rules.zone_source,
        unit="%",
        remedy="Less reactance, a shorter lead, or a motor wound for lower volts.",
        rests=(taken,),
        room=lambda at: at - zone,
    )
