"""A wound rotor at its slip rings: ohms, and the resistor's steps between rest and speed."""

from __future__ import annotations

import math
from typing import Final

from vinegate.core.facts import Circuit
from vinegate.core.grade import at_least, at_most
from vinegate.core.numbers import write
from vinegate.core.plate.rated import Rated
from vinegate.core.sheet import Sheet
from vinegate.core.turning import Taken, more
from vinegate.core.working import Figure, Provenance

MOST_STEPS: Final = 7
_USUAL_PEAK_PU: Final = 1.8
_LEAST_OVER_LOAD: Final = 1.1
_USUAL_BREAKDOWN_PU: Final = 2.5
_BREAKDOWN_BAND: Final = (2.0, 3.0)  # of wound rotors; assumed, as their makers differ
_EQUAL_RATIOS: Final = "equal ratios: each step swings between the same two torques (Fitzgerald, 6th ed., section 6.7)"


def first_torque(circuit: Circuit) -> float:
    """Of each step, of rated: as asked for, else as usual."""
    most = circuit.machine.breakdown_torque_pu or _USUAL_BREAKDOWN_PU
    return circuit.start.rotor_peak_pu or min(_USUAL_PEAK_PU, 0.8 * most)


def ohms_in_turn(rated_slip: float, peak_pu: float, steps: int | None) -> tuple[float, ...]:
    """Ohms of the rotor's circuit in each step, over its own, in equal ratios; none where it needs no resistor.

    >>> [round(one, 3) for one in ohms_in_turn(0.025, 1.6, 2)]
    [25.0, 5.0]
    """
    span = 1 / (peak_pu * rated_slip)
    if span <= 1:
        return ()
    count = steps or _steps(span, peak_pu)
    return tuple(span ** (1 - step / count) for step in range(count))


def slip_rings(sheet: Sheet, circuit: Circuit, rated: Rated, poles: int) -> None:
    """Rotor ohms from the plate, resistance for rated torque at rest, and a resistor in equal ratios.

    At the same torque and current the rotor circuit's ohms go with slip (Fitzgerald, 6th ed., section 6.7).
    """
    volts, amps = circuit.plate.rotor_volts_v, circuit.plate.rotor_current_a
    absent = (("plate.rotor_volts", "rotor volts", volts), ("plate.rotor_current", "rotor amperes", amps))
    if volts is None or amps is None or rated.speed is None or rated.frequency is None:
        sheet.needs([(path, label) for path, label, value in absent if value is None], "the starting resistance")
        return
    u = sheet.given("rotor_volts", "Rotor volts at rest", "U_2", volts, "V", provenance=Provenance.STAMPED)
    i = sheet.given("rotor_current", "Rotor amperes", "I_2", amps, "A", provenance=Provenance.STAMPED)
    slip_pu = 1 - rated.speed.value * poles / (120 * rated.frequency.value)
    s = sheet.given("slip", "Rated slip", "s", slip_pu, "", provenance=rated.speed.provenance,
                    source="from the plate's sheet")  # fmt: skip
    k = sheet.work(
        "rotor_k", "Rotor ohms at unit slip", "K", volts / (3**0.5 * amps), "Ω",
        formula="U_2/(√3·I_2)", inputs=(u, i), source="rotor phase volts over rotor current",
    )  # fmt: skip
    r = sheet.work(
        "rotor_r", "Rotor resistance, per phase", "R_r", k.value * slip_pu, "Ω",
        formula="K·s", inputs=(k, s), source="at rated slip the rotor is nearly resistive (Fitzgerald, section 6.7)",
    )  # fmt: skip
    sheet.work(
        "rotor_external", "To add at each slip ring for rated torque at rest", "R_ext", k.value - r.value, "Ω",
        formula="K−R_r", inputs=(k, r), source="same torque at the same current when ohms go with slip",
    )  # fmt: skip
    _resistor(sheet, circuit, k, r)


def _resistor(sheet: Sheet, circuit: Circuit, k: Figure, r: Figure) -> None:
    """Ohms of each step and the torques between which the start swings, with the gates that they hold the load."""
    given, start = circuit.machine.breakdown_torque_pu, circuit.start
    most = given or _USUAL_BREAKDOWN_PU
    peak_pu = first_torque(circuit)
    peak = sheet.given(
        "rotor_peak", "First torque of each step, of rated", "t_1", peak_pu, "",
        provenance=Provenance.STATED if start.rotor_peak_pu else Provenance.ASSUMED,
        source="entered" if start.rotor_peak_pu else "usual; at most 80 % of breakdown torque", fact="start.rotor_peak",
    )  # fmt: skip
    first = k.value / peak.value
    if first <= r.value:
        text = f"{write(100 * peak.value)} % is more torque than the shorted rotor has at rest: no resistor is needed."
        sheet.notes.append(text)
        return
    steps = start.rotor_steps or _steps(first / r.value, peak.value)
    ratio = (first / r.value) ** (1 / steps)
    n = sheet.given(
        "rotor_steps", "Steps of the resistor", "n", float(steps), "",
        provenance=Provenance.STATED if start.rotor_steps else Provenance.ASSUMED,
        source="entered" if start.rotor_steps else f"least that changes at 110 % of rated torque, {MOST_STEPS} at most",
        fact="start.rotor_steps",
    )  # fmt: skip
    gamma = sheet.work(
        "rotor_ratio", "Ratio from step to step", "γ", ratio, "", formula="(K/(t_1·R_r))^(1/n)",
        inputs=(k, peak, r, n), source=_EQUAL_RATIOS,
    )  # fmt: skip
    change = sheet.work(
        "rotor_change", "Torque at which a step is cut out, of rated", "t_2", peak.value / ratio, "",
        formula="t_1/γ", inputs=(peak, gamma), source=_EQUAL_RATIOS,
    )  # fmt: skip
    for step in range(steps):
        ohms = first / ratio**step - first / ratio ** (step + 1)
        sheet.work(
            f"rotor_step_{step + 1}", f"Section {step + 1}, per phase, cut out after step {step + 1}",
            f"R_s{step + 1}", ohms, "Ω", formula=f"K/t_1·(γ^(−{step})−γ^(−{step + 1}))", inputs=(k, peak, gamma),
            source=_EQUAL_RATIOS,
        )  # fmt: skip
    _gates(sheet, circuit, peak.value, change.value, most)


def _steps(span: float, peak_pu: float) -> int:
    """The least number of steps that changes over at 110 % of rated torque or more."""
    ratio = max(peak_pu / _LEAST_OVER_LOAD, 1.05)
    return min(max(math.ceil(math.log(span) / math.log(ratio) - 1e-9), 1), MOST_STEPS)


def _gates(sheet: Sheet, circuit: Circuit, peak_pu: float, change_pu: float, most_pu: float) -> None:
    power, plate = circuit.load.power_w, circuit.plate.power_w
    asks = 100 * power / plate if power and plate else 100.0
    text = f"Each step is cut out at {100 * change_pu:.0f} % of rated torque; the load asks up to {asks:.0f} %."
    sheet.gates.append(
        at_least(
            "machine.rotor_steps", "Resistor steps carry the load", 100 * change_pu, asks, sentence=text,
            source=_EQUAL_RATIOS, unit="%", remedy=f"More steps ({MOST_STEPS} at most), or a higher first torque.",
        )
    )  # fmt: skip
    text = f"First torque {100 * peak_pu:.0f} %, breakdown torque {100 * most_pu:.0f} % of rated."
    given = circuit.machine.breakdown_torque_pu is not None
    low, high = (most_pu, most_pu) if given else _BREAKDOWN_BAND
    taken = Taken(
        path="machine.breakdown_torque", label="breakdown torque", unit="%", value=100 * most_pu, low=100 * low,
        high=100 * high, how="" if given else "assumed", given=given,
    )  # fmt: skip
    sheet.gates.append(
        at_most(
            "machine.rotor_peak", "First torque below breakdown", 100 * peak_pu, 100 * most_pu, sentence=text, unit="%",
            source=_EQUAL_RATIOS, rests=more(taken), room=lambda bears: bears - 100 * peak_pu,
            remedy="A lower first torque.",
        )
    )  # fmt: skip
