"""The loop of an earth fault and its disconnection by earthing system: IEC 60364-4-41, -5-54."""

from __future__ import annotations

from typing import Final

from vinegate.core.grade import Gate, at_least, at_most, confirm, rule, unknown
from vinegate.core.numbers import write
from vinegate.core.protection.bands import Band
from vinegate.core.protection.generator import seen_in_time, utility_left_out
from vinegate.core.protection.need import Need
from vinegate.core.rules.iec.sizes import area_mm2
from vinegate.core.sheet import Sheet
from vinegate.core.supply.tree import board_name
from vinegate.core.system_volts import to_neutral
from vinegate.core.tables import load
from vinegate.core.working import Figure

_TOUCH_V: Final = 50.0
_TN: Final = ("tn", "tn-s", "tn-c-s")
_FINAL_A: Final = 32.0
_SECOND: Final = "A second earth fault"
_SIGNALLED: Final = " A first fault is to be signalled and found."
_TIMES_RESIDUAL: Final = 5.0
_RESIDUAL_S: Final = 0.15
"""At five times its rated residual current even a delayed one opens within it (IEC 61008-1:2010 table 1, type S)."""
_SOUND_MM2: Final = {"copper": 10.0, "aluminium": 16.0}
_PEN_RULE: Final = "IEC 60364-5-54:2011 543.4.1"
_FIRST: Final = "IEC 60364-4-41:2005+A1:2017 411.6"


def earth_loop(sheet: Sheet, need: Need, size: str, protective: str) -> Figure | None:
    """Line-to-earth loop: source, feeders and run, and back through the protective conductors of feeders and run.

    Behind a transformer of its own the way back ends at its star point; what stands ahead of it is counted whole.
    """
    source, run, feed = need.source, need.run, need.feed
    if source is None or run is None or feed is None or not feed.known:
        return None
    back = _feeders_back(sheet, need)
    if back is None:
        return None
    ratio = sheet.given(
        "protective_ratio", "Run over protective conductor, area", "a",
        area_mm2(size) / area_mm2(protective), "", source="sizes entered or advised",
    )  # fmt: skip
    scale = (feed.volts_v / source.volts.value) ** 2
    mark = "" if abs(scale - 1) < 1e-9 else f"·{scale:.6g}"
    r = source.r.value * scale + run.r.value * (1 + ratio.value)
    x = source.x.value * scale + 2 * run.x.value
    real, imaginary = f"{source.r.symbol}{mark}", f"{source.x.symbol}{mark}"
    inputs = [source.r, source.x]
    if feed.run is not None:
        r, x = r + feed.run.r.value, x + feed.run.x.value
        real, imaginary = f"{real}+{feed.run.r.symbol}", f"{imaginary}+{feed.run.x.symbol}"
        inputs += [feed.run.r, feed.run.x]
    for figure, is_r in ((back[0], True), (back[1], False)) if back else ():
        r, x = (r + figure.value, x) if is_r else (r, x + figure.value)
        real, imaginary = (f"{real}+{figure.symbol}", imaginary) if is_r else (real, f"{imaginary}+{figure.symbol}")
        inputs.append(figure)
    return sheet.work(
        "loop", "Loop impedance, line to earth", "Z_l", (r * r + x * x) ** 0.5, "mΩ",
        formula=f"√(({real}+{run.r.symbol}·(1+a))²+({imaginary}+2·{run.x.symbol})²)",
        inputs=(*inputs, run.r, run.x, ratio),
        source="source, feeders, line and protective conductors in series; working temperature",
    )  # fmt: skip


def _feeders_back(sheet: Sheet, need: Need) -> tuple[Figure, ...] | None:
    """Ohms of the feeders' protective conductors at the circuit's volts; none on the main board, None where unknown."""
    assert need.feed is not None
    legs = list(need.feed.legs)
    last = max((place for place, leg in enumerate(legs) if leg.transformer), default=-1)
    r = x = 0.0
    missing = []
    for leg in legs[last + 1 :]:
        board = need.job.board(leg.key)
        assert board is not None
        if board.ground_size is None or board.size is None or "mm²" not in board.ground_size + board.size:
            missing.append(
                (f"{leg.key}.ground_size", f"protective conductor of the feeder to {board_name(need.job, leg.key)}")
            )
            continue
        r += leg.run.r.value * area_mm2(board.size) / area_mm2(board.ground_size)
        x += leg.run.x.value
    if missing:
        sheet.needs(missing, "the loop of an earth fault")
        return None
    if r == 0:
        return ()
    text = "feeder's ohms by the ratio of areas; its reactance as the line's"
    return tuple(
        sheet.given(f"back_{name}", f"Feeders' protective conductors, {title}", symbol, value, "mΩ", source=text)
        for name, title, symbol, value in (("r", "resistance", "R_pe", r), ("x", "reactance", "X_pe", x))
    )


def disconnection(sheet: Sheet, need: Need, band: Band | None, loop: Figure | None) -> Gate:
    """Automatic disconnection by earthing system (60364-4-41, 411), with c_min of the loop's volts."""
    key, name, supply = "protection.loop", "Disconnects on an earth fault", need.job.supply
    earthing, lacks = supply.earthing, []
    if earthing is None:
        lacks.append("the earthing system")
        sheet.needs([("supply.earthing", "earthing system")], "disconnection on an earth fault")
    if earthing == "tt":
        return _by_residual(sheet, need)
    if need.way.converts and earthing is not None:
        text = "Behind a drive its own electronics switch off on an earth fault: its maker's time, 0.4 s or 5 s asked."
        return confirm(key, name, False, text, "IEC 60364-4-41:2005+A1:2017 411.3.2.5; IEC 61800-5-1:2022")
    if loop is None:
        lacks += need.lacks_far or ("the feeders' protective conductors",)
    if band is None:
        lacks.append("the short-circuit device")
    volts = need.feed.volts_v if need.feed else None
    if lacks or loop is None or band is None or volts is None or earthing is None or need.faults is None:
        return unknown(key, name, tuple(lacks) or ("system volts",))
    phase_v = to_neutral(volts)
    within, residual = _within_s(band, phase_v), residual_of(need)[0]
    drives, what = 1000 * need.faults.least_factor * phase_v / loop.value, "An earth fault"
    if earthing == "it":
        drives, what = drives * 3**0.5 / 2, _SECOND
    asked = band.sure_a(within)
    if residual is not None and residual * _TIMES_RESIDUAL < asked:
        return _by_residual_too(what, drives, residual, within)
    seen = seen_in_time(need, band, drives, within)
    if seen is None:
        return unknown(key, name, ("the generator's sustained fault current",))
    text = f"{what} draws {seen:.0f} A; the device opens within {write(within)} s from {asked:.0f} A."
    if earthing == "it":
        text += _SIGNALLED
    source = f"IEC 60364-4-41:2005+A1:2017 411.{4 if earthing in _TN else 6}: Z_s·I_a ≤ c_min·U_0"
    weak = utility_left_out(need, loop.value)
    return at_least(
        key, name, seen, asked, sentence=text, source=source, unit="A", rests=weak,
        room=(lambda left: seen * left - asked) if weak else None,
        remedy="A larger protective conductor, a device that opens at less, or a residual-current device.",
    )  # fmt: skip


def _by_residual_too(what: str, drives: float, residual: float, within: float) -> Gate:
    """TN and IT: beside the short-circuit device, by five times its rated residual current."""
    key, name, asked = "protection.loop", "Disconnects on an earth fault", _TIMES_RESIDUAL * residual
    text = f"{what} draws {drives:.0f} A; its residual-current device opens within {write(within)} s from "
    text += f"{write(asked, 3)} A: its protective conductor is none that carries the neutral."
    if what == _SECOND:
        text += _SIGNALLED
    return at_least(
        key, name, drives, asked, sentence=text, source="IEC 60364-4-41:2005+A1:2017 411.4.4, 411.4.5", unit="A",
        remedy="A more sensitive device.",
    )  # fmt: skip


def residual_of(need: Need) -> tuple[float | None, str | None]:
    """Rated residual current, A, and type of the device that sees this circuit: its own, else the supply's."""
    own, supply = need.circuit.protection, need.job.supply
    if own.residual_a is not None:
        return own.residual_a, own.residual_type
    return supply.residual_a, own.residual_type or supply.residual_type


def _within_s(band: Band, phase_v: float) -> float:
    """Table 41.1 for final circuits up to 32 A, 5 s above; IT after a second fault as TN (411.6.4)."""
    if band.rating_a > _FINAL_A:
        return 5.0
    row = next(row for row in load("disconnection_time").rows if phase_v <= float(row["upto_v"]) + 1.5)
    return float(row["tn"])


def _by_residual(sheet: Sheet, need: Need) -> Gate:
    """TT: `R_A·I_Δn ≤ 50 V`."""
    key, name, supply = "protection.loop", "Disconnects on an earth fault", need.job.supply
    residual = residual_of(need)[0]
    wanted = (
        ("supply.earth_resistance", "earth electrode's ohms", supply.earth_resistance_ohm),
        ("protection.residual", "residual-current device", residual),
    )
    missing = [(path, label) for path, label, value in wanted if value is None]
    if missing:
        return unknown(key, name, sheet.needs(missing, "disconnection on an earth fault"))
    assert supply.earth_resistance_ohm is not None
    assert residual is not None
    volts = supply.earth_resistance_ohm * residual
    text = f"R_A·I_Δn is {write(volts, 3)} V of 50 V."
    return at_most(
        key, name, volts, _TOUCH_V, sentence=text, source="IEC 60364-4-41:2005+A1:2017 411.5.3", unit="V",
        remedy="A lower electrode resistance, or a more sensitive device.",
    )  # fmt: skip


def earthing_gates(need: Need, protective: str) -> tuple[Gate, ...]:
    """What else the earthing system and a drive ask: first fault, monitor, PEN of feeders, residual device, leakage."""
    supply, found = need.job.supply, []
    if supply.earthing == "it":
        found += _first_fault(need)
    if supply.earthing == "tn-c-s":
        found += _pen(need)
    if need.way.converts:
        found += _drive_gates(need, protective)
    return tuple(found)


def _first_fault(need: Need) -> list[Gate]:
    """IT: `R_A·I_d ≤ 50 V` at the first fault, and a monitor that signals it (411.6.2, 411.6.3.1)."""
    supply, key, name = need.job.supply, "protection.first_fault", "First fault to earth"
    ohms, amps = supply.earth_resistance_ohm, supply.first_fault_a
    if ohms is None or amps is None:
        lacks = [
            label for label, value in (("earth electrode's ohms", ohms), ("first-fault current", amps)) if value is None
        ]
        first = unknown(key, name, tuple(lacks))
    else:
        volts = ohms * amps
        first = at_most(
            key, name, volts, _TOUCH_V, sentence=f"R_A·I_d is {write(volts, 3)} V of 50 V.", source=f"{_FIRST}.2",
            unit="V", remedy="A lower electrode resistance.",
        )  # fmt: skip
    key, name = "protection.monitor", "First fault is signalled"
    if supply.monitor is None:
        return [first, unknown(key, name, ("whether an insulation monitor signals the first fault",))]
    met = supply.monitor == "yes"
    text = (
        "An insulation monitor signals it." if met else "Nothing signals a first fault: the second finds no one warned."
    )
    return [first, rule(key, name, met, text, f"{_FIRST}.3.1", remedy="An insulation monitoring device.")]


def _pen(need: Need) -> list[Gate]:
    """TN-C-S: feeders' protective conductors that are PEN have at least 10 mm² copper, 16 mm² aluminium (543.4.1)."""
    found = []
    for leg in need.feed.legs if need.feed else ():
        board = need.job.board(leg.key)
        if board is None or board.ground_size is None or "mm²" not in board.ground_size:
            continue
        least = _SOUND_MM2[board.metal or "copper"]
        if area_mm2(board.ground_size) < least:
            where = board_name(need.job, leg.key)
            text = f"{board.ground_size} to {where}: as PEN at least {least:g} mm², else the split is ahead of it."
            found.append(confirm("protection.pen", "PEN of the feeder", False, text, _PEN_RULE))
    return found


def _drive_gates(need: Need, protective: str) -> list[Gate]:
    """A three-phase drive's residual current may be smooth direct current; its leakage asks a sound way to earth."""
    found, supply = [], need.job.supply
    residual, said = residual_of(need)
    if residual is not None or supply.earthing == "tt":
        key, name = "protection.residual_type", "Residual-current device sees the drive's faults"
        source = "IEC 60364-5-53:2019 531.3.3; IEC 62423 type B"
        if said is None:
            found.append(unknown(key, name, ("type of the residual-current device",)))
        else:
            sees = ("f", "b") if need.fed_by_one else ("b",)
            text = f"Type {said.upper()} ahead of a drive with a {'single' if need.fed_by_one else 'three'}-phase "
            remedy = f"Type {' or '.join(one.upper() for one in sees)}, of 300 mA or as its leakage allows."
            found.append(rule(key, name, said in sees, f"{text}rectifier.", source, remedy=remedy))
    metal = need.circuit.wiring.metal or "aluminium"  # of a metal that nobody said, what needs more
    enough = "mm²" in protective and area_mm2(protective) >= _SOUND_MM2[metal]
    text = (
        "A drive may leak more than 10 mA to earth: 10 mm² copper or 16 mm² aluminium at least, or a second conductor; "
        f"{protective} here."
    )
    found.append(
        confirm("protection.leakage", "Protective conductor for leakage", enough, text, "IEC 60364-5-54:2011 543.7")
    )
    return found


def protective_withstand(need: Need, k: float, band: Band, has_mm2: float, chosen: str, loop: Figure) -> Gate:
    """`S ≥ √(I²t)/k` of the protective conductor at the loop's current."""
    key, name = "protection.protective_withstand", "Protective conductor bears the fault"
    source = "IEC 60364-5-54:2011 543.1.2"
    if need.feed is None or need.faults is None:
        return unknown(key, name, ("system volts",))
    amps = 1000 * need.faults.least_factor * to_neutral(need.feed.volts_v) / loop.value
    energy, residual = band.let_through_a2s(amps), residual_of(need)[0]
    if residual is not None and amps >= _TIMES_RESIDUAL * residual:
        energy = min(energy, amps**2 * _RESIDUAL_S)
    if energy == float("inf"):
        text = f"At {amps:.0f} A to earth, opening is not certain."
        return rule(key, name, False, text, source, remedy="A device that opens at less.")
    asked = energy**0.5 / k
    text = f"√(I²t)/k asks {write(asked, 3)} mm² at {amps:.0f} A; {chosen}."
    return at_least(
        key, name, has_mm2, asked, sentence=text, source=source, unit="mm²", remedy="A larger protective conductor."
    )
