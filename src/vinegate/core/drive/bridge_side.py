"""What a direct-current machine's own drive draws from its line: one over the order of each harmonic."""

from __future__ import annotations

from vinegate.core.drive.facts import Drive
from vinegate.core.drive.line_side import ORDERS, LineSide, capacitors_on, limited
from vinegate.core.fed import fed
from vinegate.core.plate.stage import PLATE
from vinegate.core.rectifier import SOURCE, bridge_of
from vinegate.core.sheet import Sheet
from vinegate.core.supply.stage import SUPPLY
from vinegate.core.tables import load
from vinegate.core.work import Work
from vinegate.core.working import Figure, Provenance


def bridge_side_of(work: Work) -> LineSide | None:
    """Put it on the sheet, at rated armature amperes; None while volts or amperes are not known."""
    sheet, line, rated = work.sheet("drive"), fed(work.job, work.circuit), work.found(PLATE).rated
    if line is None or rated.drawn is None:
        return None
    bridge, facts = bridge_of(work.job, work.circuit), work.circuit.of("drive", Drive)
    fundamental = _share(sheet, rated.drawn, "input_a", "fundamental", "I_1", bridge.wave)
    rms = _share(sheet, rated.drawn, "input_rms", "rms", "I_in", bridge.rms)
    row = load("drive_front_end").find(kind="controlled")
    assert row is not None
    sheet.given("thd", "Harmonics of that current, together", "THD", float(row["thd"]), "%",
                provenance=Provenance.ESTIMATED, source=load("drive_front_end").source)  # fmt: skip
    own = tuple(fundamental.value * float(row[str(order)]) / 100 for order in ORDERS)
    others, faults = facts.others_a or 0.0, work.found(SUPPLY).faults
    side = LineSide(
        fundamental_a=fundamental.value, rms_a=rms.value, orders=ORDERS, harmonics_a=own,
        together_a=tuple(mine + others * float(row[str(order)]) / 100 for order, mine in zip(ORDERS, own, strict=True)),
        thd_pct=float(row["thd"]), thd_low=float(row["thd_low"]), thd_high=float(row["thd_high"]), power_factor=0.0,
        fault_a=faults.largest.value * 1000 if faults else None, volts_v=line.line_v, one_phase=not bridge.three,
        island=work.job.on_standby, capacitors_var=capacitors_on(work.job, work.circuit, facts),
    )  # fmt: skip
    return limited(side, work.rules, facts)


def _share(sheet: Sheet, armature: Figure, key: str, name: str, symbol: str, share: float) -> Figure:
    """Line amperes by a bridge's share of those behind it."""
    times = sheet.given(f"share_{key}", f"Line amperes, {name}, of the armature's", f"k_{symbol}", share, "",
                        provenance=Provenance.TABLE, source=SOURCE)  # fmt: skip
    return sheet.work(
        key, f"Input current at rated load, {name}", symbol, share * armature.value, "A",
        formula=f"{times.symbol}·{armature.symbol}", inputs=(times, armature), source=SOURCE,
    )  # fmt: skip
