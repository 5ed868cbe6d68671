"""The used way's simulated figures on the sheet, and a hand check of its time."""

from __future__ import annotations

import numpy as np

from vinegate.core.rules import RuleSet
from vinegate.core.sheet import Sheet
from vinegate.core.start.compare import Comparison, MethodRow
from vinegate.core.start.connection import FULL, behave
from vinegate.core.start.plant import Plant
from vinegate.core.start.trace import Outcome
from vinegate.core.start.ways import USUAL
from vinegate.core.working import Provenance

_HAND_SPEEDS = (0.1, 0.3, 0.5, 0.7, 0.9)


def used_figures(sheet: Sheet, found: Comparison, plant: Plant, rules: RuleSet) -> None:
    """The used way's figures, and a hand check of its time from five speeds."""
    row = found.row(found.chosen)
    if row.outcome is None:
        return
    simulated = f"{row.name}, simulated with network, machine and load over {plant.points} speeds"

    def put(key: str, name: str, symbol: str, value: float | None, unit: str, source: str = simulated) -> None:
        if value is not None:
            sheet.given(key, name, symbol, value, unit, provenance=Provenance.ESTIMATED, source=source)

    put("used.current", "Largest line current", "I_max", row.peak_a, "A")
    put("used.times", f"the same, of {rules.words.full_load_symbol}", "k_max", row.times_rated, "")
    put("used.dip", "Largest dip at the main board", "ΔU_u", row.dip_pct, "%")
    put("used.terminals", "Least volts at the terminals, of plate volts", "u_u", row.terminal_least_pct, "%")
    put("used.start_torque", "Torque at rest, of rated", "T_0", row.start_torque_pct, "%")
    put("used.margin", "Least torque to spare, of rated", "m_T", row.margin_pct, "%")
    put("used.time", "Time to speed", "t_a", row.time_s, "s")
    put("used.heat", "Heat, of what it bears from hot", "q", row.heat_pct, "%")
    if row.overload_pct is not None:
        put("used.overload", "Overload's heat at the end, of class 10's earliest trip", "q_OL", row.overload_pct, "%")
    if row.spike is not None:
        opened = "band over the residual's angle; Kovács and Rácz 1959, chapter 3"
        put("used.spike_low", "Reclosing, residual in phase", "I_re1", row.spike.least_a, "A", opened)
        put("used.spike", "Reclosing, residual opposed", "I_re2", row.spike.most_a, "A", opened)
        put("used.spike_peak", "the same as first-cycle peak", "i_re", row.spike.peak_a, "A", opened)
        put("used.residual", "Residual volts left", "e_r", 100 * row.spike.residual_pu, "%", opened)
        put("used.decay", "Time constant of the open rotor", "τ_0", row.spike.decay_s, "s", opened)
    if row.method == USUAL.key and row.outcome is Outcome.REACHES:
        _time_by_hand(sheet, plant, row)


def _time_by_hand(sheet: Sheet, plant: Plant, row: MethodRow) -> None:
    """`t ≈ J·ω/5·Σ 1/T_i`, accelerating torque at five speeds."""
    spare = (behave(plant, [FULL]).torque - plant.load_nm)[0]
    strip = row.strip
    assert strip is not None
    top = strip.speed_pu[-1]
    inputs = []
    for number, share in enumerate(_HAND_SPEEDS, start=1):
        value = float(np.interp(share * top, plant.speed_pu, spare))
        inputs.append(
            sheet.given(
                f"hand.torque_{number}",
                f"Accelerating torque at {100 * share:.0f} % of the way",
                f"T_a{number}",
                value,
                "N·m",
                provenance=Provenance.ESTIMATED,
                source="machine less load, at the volts it has",
            )
        )
    inertia = sheet.given("hand.inertia", "Inertia", "J", plant.inertia_kgm2, "kg·m²",
                          provenance=Provenance.ESTIMATED, source="rotor and load, on the load's sheet")  # fmt: skip
    omega = sheet.given("hand.omega", "Speed gained", "ω", top * plant.synchronous_rad_s, "rad/s",
                        provenance=Provenance.ESTIMATED, source="the speed at which it settles")  # fmt: skip
    mean = sum(1 / figure.value for figure in inputs) / 5
    sheet.work(
        "hand.time",
        "Time to speed by hand",
        "t_hand",
        inertia.value * omega.value * mean,
        "s",
        formula="J·ω/5·(" + "+".join(f"1/{figure.symbol}" for figure in inputs) + ")",
        inputs=(inertia, omega, *inputs),
        source="midpoint rule over five speeds; a check on the line above",
    )
