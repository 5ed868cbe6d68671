"""The drive in a sentence or three."""

from __future__ import annotations

from vinegate.core.answer import Piece, failing, to_settle
from vinegate.core.drive.stage import Driven, Found
from vinegate.core.grade import Gate, Verdict, worst, worst_judged
from vinegate.core.numbers import horsepower, write
from vinegate.core.quantity import WATT_PER_HP
from vinegate.core.records import replace
from vinegate.core.sheet import Stage


def drive_answer(found: Found | None, stage: Stage) -> tuple[Piece, ...]:
    """What fails or is to settle first; then power, amperes, the slow end, the lead and the year."""
    if found is not None and found.bridge is not None:
        side = found.bridge
        said = (Piece("Its own drive draws "), Piece(f"{write(side.rms_a, 3)} A", strong=True))
        harmonics = f", harmonics of about {write(side.thd_pct, 2)} %." if not side.one_phase else "."
        rest = " What is asked here is of its line alone: it turns no field."
        return (*_first(stage.gates), *said, Piece(harmonics + rest))
    if found is None or not found.considered:
        return (Piece("No drive is thought of here: set its speeds below, or choose it on the starter's sheet."),)
    gates = gates_beside(found, stage) or stage.gates
    return _first(gates) if found.driven is None else (*_first(gates), *_does(found.driven))


def gates_beside(found: Found, stage: Stage) -> tuple[Gate, ...]:
    """What a drive beside the way in use is judged by, as its sheet has it and as it would weigh: empty where it is in
    use.
    """
    kinds = {gate.key: gate.kind for gate in found.beside}
    judged = tuple(replace(gate, kind=kinds[gate.key]) for gate in stage.gates if gate.key in kinds)
    return (*stage.unread, *judged) if kinds else ()


def drive_verdict(found: Found | None, stage: Stage, circuit: Verdict) -> Verdict:
    """The circuit's where its drive is in use; that of the drive alone where it is worked beside another way, and of no
    drive nothing is known.
    """
    if found is None or not (found.considered or found.bridge is not None):
        return worst_judged(())
    return worst(gates_beside(found, stage)) if found.beside else circuit


def _first(gates: tuple[Gate, ...]) -> tuple[Piece, ...]:
    """What fails, else what is to settle, with a space after it."""
    pieces = failing(gates) or to_settle(gates)
    return (*pieces, Piece(" ")) if pieces else ()


def _kilowatts(driven: Driven, kw: float) -> str:
    if driven.plain.us_units:
        return horsepower(1000 * kw / WATT_PER_HP, 3)
    return f"{write(kw, 3)} kW"


def _does(driven: Driven) -> list[Piece]:
    need, rows = driven.plain, driven.rows
    fast, slow = rows[0], rows[-1]
    pieces = [
        Piece(f"At {write(fast.point.rpm)} {need.unit} {'it' if need.motors == 1 else 'each'} takes "),
        Piece(_kilowatts(driven, fast.kw), strong=True),
        Piece(" of "),
        Piece(_kilowatts(driven, need.power_w / 1000)),
        Piece(" and " if need.motors == 1 else f", all {need.motors} together "),
        Piece(f"{write(driven.asked.amps, 3)} A", strong=True),
    ]
    pieces.append(
        Piece(f" of the drive's {write(driven.rating.rated_a, 3)} A" if driven.rating.rated_a else " of the drive")
    )
    if len(rows) > 1 and slow.point.nm > 0:
        times = slow.continuous_nm / slow.point.nm
        pieces.append(Piece(f"; at {write(slow.hz, 3)} Hz it bears {write(times, 2)} times what is asked"))
    pieces.append(Piece("."))
    if driven.lead is not None:
        pieces += [Piece(f" Behind {write(driven.lead.length_m, 3)} m of lead its winding sees up to "),
                   Piece(f"{write(driven.lead.peak_v / 1000, 3)} kV", strong=True), Piece(".")]  # fmt: skip
    if driven.energy is not None and driven.energy.saved_kwh is not None and driven.energy.saved_kwh > 0:
        pieces.append(Piece(f" It saves about {write(driven.energy.saved_kwh / 1000, 2)} MWh a year at the same flow."))
    return pieces
