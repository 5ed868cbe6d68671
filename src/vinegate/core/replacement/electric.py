"""What the line sees: phases, hertz, volts, leads, power, amperes, current at rest, efficiency."""

from __future__ import annotations

import math
from typing import Final

from vinegate.core.grade import Answer, Verdict
from vinegate.core.numbers import write
from vinegate.core.plate.kind import Family, shown
from vinegate.core.plate.sizes import next_size_w
from vinegate.core.plate.volts import VoltsDesignation
from vinegate.core.plate.which_kind import of_another_kind
from vinegate.core.quantity import WATT_PER_HP
from vinegate.core.records import replace
from vinegate.core.replacement.fits import Fits, Row, Said
from vinegate.core.replacement.pair import Machine, Pair
from vinegate.core.start.eligible import eligible
from vinegate.core.start.wye_delta import wye_delta_gate

_SAME_PU: Final = 0.02
_ONE_SIZE: Final = 1.4
_STEP: Final = "one standard step, by the ratings of NFPA 70:2023 table 430.250 or IEC 60072-1:2022"
_VOLTS: Final = "NEMA MG 1:2021 12.44; IEC 60034-1:2022 7.3"


def electric_rows(pair: Pair) -> list[Row]:
    """In the plate's order."""
    made = (phases, hertz, volts, leads, power, amperes, service, at_rest, rings, efficiency)
    return [row for row in (make(pair) for make in made) if row is not None]


def phases(pair: Pair) -> Row:
    old, new = pair.old.plate, pair.new.plate
    row = Said("phases", "Kind of machine", shown(old.kind), shown(new.kind))
    why = next((why for plate in (new, old) if plate.kind is None and (why := of_another_kind(plate))), "")
    if why:
        return row.put(fits=Fits.UNKNOWN, text=f"{why}.", needs=("the kind of machine",))
    if old.family is new.family:
        return row.put(fits=Fits.SAME, text="The same kind of supply and machine.")
    if {old.family, new.family} == {Family.CAGE, Family.WOUND}:
        return row.put(
            fits=Fits.WITH,
            text="It starts another way.",
            source="NFPA 70:2023 430.32; IEC 60034-1:2022",
            task="Plan its start anew: rings and resistor come or go.",
        )
    return row.put(fits=Fits.NOT, text="It asks for another supply than there is.", source=_VOLTS)


def hertz(pair: Pair) -> Row | None:
    """None where either is a direct-current machine: that has none."""
    if Family.DC in (pair.old.plate.family, pair.new.plate.family):
        return None
    old, new = pair.old.plate.frequency_hz, pair.new.plate.frequency_hz
    texts = Said("hertz", "Frequency", f"{old:g} Hz" if old else "", f"{new:g} Hz" if new else "")
    if old is None or new is None:
        return texts.lacking("frequency")
    if old == new:
        return texts.put(fits=Fits.SAME, text="The same.")
    times = old / new
    if pair.new.rerated != 1.0:
        text = (
            f"{new:g} Hz at volts in the same measure: it keeps its torque, turns {times:.2f} × as fast and gives "
            f"{times:.2f} × its stamped power here. A fan or pump would ask {times**3:.2f} × at that speed."
        )
        return texts.put(fits=Fits.WITH, text=text, source=_VOLTS,
                         task="Its fan, bearings and balance for that speed, by its maker.")  # fmt: skip
    share = f"{100 * _flux(pair, times):.0f} %" if pair.supply else ""
    flux = f"at the volts here its flux is {share} of what it is made for" if share else ""
    return texts.put(fits=Fits.NOT, text=f"{new:g} Hz for {old:g} Hz: {flux or 'its flux changes'}.", source=_VOLTS,
                     task="Volts in the measure of the frequency, or its maker's word for these.")  # fmt: skip


def _flux(pair: Pair, times: float) -> float:
    """Volts over frequency here, of what the plate's nearest connection stands for."""
    designation = pair.new.plate.volts
    if designation is None or pair.supply is None:
        return 1 / times
    volts = pair.supply.volts_v
    return volts / designation.nearest(volts)[1].high_v / times


def volts(pair: Pair) -> Row:
    """The new plate must have a connection for this supply: by the rule that is asked of a plate there."""
    old, new, here = pair.old.plate.volts, pair.new.plate.volts, pair.new.here
    row = Said("volts", "Volts", old.text if old else "", new.text if new else "")
    if old is None or new is None or pair.supply is None or here is None:
        return row.lacking("volts")
    if here.verdict is Verdict.UNKNOWN:
        return row.put(fits=Fits.UNKNOWN, text="", needs=here.needs)
    if here.verdict is Verdict.FAILS:
        return row.put(fits=Fits.NOT, source=here.source, text=here.sentence, task=here.remedy)
    if _designated(old) == _designated(new):
        return row.put(fits=Fits.SAME, text="The same designation.")
    if here.turns is not None:
        return row.put(fits=Fits.UNKNOWN, source=here.source, text=here.sentence, task=here.remedy,
                       needs=(here.turns.label,))  # fmt: skip
    if pair.new.plate.family is Family.DC:
        return row.put(fits=Fits.WITH, source=here.source, text=here.sentence,
                       task=f"Its drive's armature volts, and their limit, set for {new.text} V.")  # fmt: skip
    supply = pair.supply.volts_v
    connection = new.nearest(supply / pair.new.rerated)[1]
    return row.put(
        fits=Fits.WITH,
        text=f"It has a connection for {write(supply, 3)} V.",
        source=_VOLTS,
        task=f"Connect it for {connection.text} V, by its own diagram.",
    )


def _designated(plate: VoltsDesignation) -> tuple[list[str], tuple[float, ...]]:
    """Its connections in whatever order they are stamped, and what else it is usable at."""
    return sorted(connection.text for connection in plate.connections), plate.usable_at_v


def leads(pair: Pair) -> Row | None:
    """Brought out as the way to start that is in use asks for: by the rule that is asked of a plate at the start."""
    if pair.new.plate.family is not Family.CAGE:
        return None
    old, new = pair.old.plate.leads, pair.new.plate.leads
    row = Said("leads", "Leads", str(old or ""), str(new or ""))
    may = _may_start(pair)
    if may.verdict is Verdict.FAILS:
        return row.put(fits=Fits.NOT, text=may.text, source="NEMA MG 1:2021 2.2; IEC 60034-8:2007",
                       task="Another way to start.")  # fmt: skip
    if may.verdict is Verdict.UNKNOWN:
        return row.lacking("leads") if new is None else row.put(fits=Fits.UNKNOWN, text="", needs=may.needs)
    if may.verdict is Verdict.CHECK:
        label = may.turns.label if may.turns is not None else may.text
        return row.put(fits=Fits.UNKNOWN, text="", needs=(f"of the new motor, {label}",))
    if new is None or old == new or (new == 3 and old is None):
        return row.put(fits=Fits.SAME, text=f"What {pair.way.name} asks for is brought out.")
    return row.put(fits=Fits.WITH, text=f"What {pair.way.name} asks for is brought out.",
                   task="Connect it by its own diagram.")  # fmt: skip


def _may_start(pair: Pair) -> Answer:
    """Whether the new motor can be started as the old one is; that the old one has halves says nothing of it."""
    start = pair.circuit.start.model_copy(update={"part_winding": pair.facts.part_winding})
    there = replace(pair.circuit, plate=pair.new.plate, start=start)
    return eligible(pair.way, there, pair.job, wye_delta_gate(there, pair.job, pair.rules))


def power(pair: Pair) -> Row:
    """Within 2 % the same; larger by a step with a lower share of load; smaller only where the load was measured."""
    old, new = pair.old.power_w, pair.new.power_w
    figures = [machine.rated.power.shown if machine.rated.power else "" for machine in (pair.old, pair.new)]
    row = Said("power", "Power", figures[0], figures[1])
    if old is None or new is None:
        return row.lacking("power")
    ratio = new / old
    if old < WATT_PER_HP and pair.old.rated.drawn and pair.new.rated.drawn:
        return _fractional(row, pair.new.rated.drawn.value / pair.old.rated.drawn.value)
    if abs(ratio - 1) <= _SAME_PU:
        return row.put(fits=Fits.SAME, text="The same rating.")
    if ratio > 1:
        share = f"; the load is then {100 * pair.load_w / new:.0f} % of it" if pair.load_w else ""
        if new <= _one_step(pair, old):
            return row.put(
                fits=Fits.WITH,
                text=f"{ratio:.2f} × as strong{share}: power factor and efficiency fall.",
                source=_STEP,
                task="Set overload, start and protection anew for the larger motor.",
            )
        return row.put(
            fits=Fits.NOT,
            text=f"{ratio:.2f} × as strong{share}: more than a standard step. It starts harder "
            "than coupling, device and supply were chosen for.",
            source=_STEP,
            task="Coupling, protection and supply planned for it.",
        )
    return _smaller(pair, row, new)


def _one_step(pair: Pair, old_w: float) -> float:
    """The power of the next size that is made, W; below and above those that are listed, by what a step usually is."""
    size = next_size_w(old_w, horsepower=pair.rules.practice.us_units)
    return (1 + _SAME_PU) * (size if size is not None else _ONE_SIZE * old_w)


def _fractional(row: Said, amps: float) -> Row:
    """Below a horsepower the same power is stamped on motors of unlike strength: their amperes tell."""
    source = "fractional machines are matched by amperes at the same volts and speed"
    if abs(amps - 1) <= 0.10:
        return row.put(
            fits=Fits.SAME, text=f"Fractional: matched by amperes, {amps:.2f} × the old one's.", source=source
        )
    if amps > 1:
        return row.put(fits=Fits.WITH, text=f"Fractional: {amps:.2f} × the old one's amperes.", source=source,
                       task="Overload set by the new plate.")  # fmt: skip
    return row.put(fits=Fits.NOT, text=f"Fractional: {amps:.2f} × the old one's amperes: it is weaker.", source=source)


def _smaller(pair: Pair, row: Said, new_w: float) -> Row:
    if not pair.measured or pair.load_w is None:
        return row.put(
            fits=Fits.NOT,
            text="It is smaller, and what the driven machine asks was not measured.",
            source="a service factor is no reserve for a load",
            task="Measure the load.",
        )
    share = 100 * pair.load_w / new_w
    text = f"Smaller; the measured load is {share:.0f} % of it."
    if share <= 95:
        return row.put(
            fits=Fits.WITH,
            text=text,
            source="measured load up to 95 % of the new rating",
            task="Set overload and protection anew for the smaller motor.",
        )
    return row.put(fits=Fits.NOT, text=text, source="measured load up to 95 % of the new rating")


def amperes(pair: Pair) -> Row:
    old, new = pair.old.rated.drawn, pair.new.rated.drawn
    row = Said(
        "amperes", pair.rules.words.full_load_current.capitalize(), old.shown if old else "", new.shown if new else ""
    )
    if old is None or new is None:
        return row.lacking(pair.rules.words.full_load_current)
    ratio = new.value / old.value
    if abs(ratio - 1) <= _SAME_PU:
        return row.put(fits=Fits.SAME, text="Within 2 %.")
    what = (
        "more: wires, contactor and device are looked at below."
        if ratio > 1
        else "less: an overload left as it was is too high."
    )
    return row.put(
        fits=Fits.WITH,
        text=f"{100 * abs(ratio - 1):.0f} % {what}",
        source=f"{pair.rules.papers.overload}: by the motor's own plate",
        task=f"Set the overload by {new.shown}.",
    )


def service(pair: Pair) -> Row | None:
    """A lower factor counts where the old motor ran inside its own."""
    if not pair.rules.practice.service_factor:
        return None
    old, new = pair.old.plate.service_factor, pair.new.plate.service_factor
    row = Said("service", "Service factor", f"{old:g}" if old else "", f"{new:g}" if new else "")
    if old is None or new is None:
        return row.lacking("service factor")
    if new >= old:
        return row.put(fits=Fits.SAME, text="At least as high.")
    if pair.load_w is None or pair.new.power_w is None:
        return row.put(fits=Fits.UNKNOWN, text="", needs=("the load",))
    if pair.load_w > pair.new.power_w * 1.005:
        return row.put(
            fits=Fits.NOT,
            source="NEMA MG 1:2021 14.37",
            text=f"The load is {100 * pair.load_w / pair.new.power_w:.0f} % of its rating: the old one ran inside "
            "its factor.",
        )
    return row.put(
        fits=Fits.WITH,
        text="Lower; the load stays within the rating itself.",
        source="NEMA MG 1:2021 14.37",
        task="Overload at 115 % at most where the factor is below 1.15 (430.32).",
    )


def at_rest(pair: Pair) -> Row | None:
    """More at rest is a harder start for everything ahead of it. None where either is of direct current: its
    drive holds it.
    """
    if Family.DC in (pair.old.plate.family, pair.new.plate.family):
        return None
    words = pair.rules.words
    name = f"{words.locked_rotor.capitalize()} current"
    old, new = (_rest(machine) for machine in (pair.old, pair.new))
    row = Said("at_rest", name, f"{write(old, 3)} A" if old else "", f"{write(new, 3)} A" if new else "")
    if old is None or new is None:
        return row.lacking(f"{words.locked_rotor} current")
    ratio = new / old
    if ratio <= 1.02:
        return row.put(fits=Fits.SAME, text="No more than the old one's.")
    return row.put(
        fits=Fits.WITH,
        text=f"{100 * (ratio - 1):.0f} % more at rest: dip, device and contactor bear it, or not: see below.",
        source="NEMA MG 1:2021 10.37; IEC 60034-12:2016; first peak higher with it",
        task="Instantaneous trip, soft-start limit and restart order set anew.",
    )


def _rest(machine: Machine) -> float | None:
    """None where it is a mere assumption."""
    return None if machine.rest is None or machine.rest.origin.startswith("assumed") else machine.rest_a


_RING_PU: Final = 0.05
_RINGS: Final = (
    "IEC 60034-1:2022 10.2: rotor volts at rest and amperes of the rings; a resistor is U_2/(√3·I_2) by parts"
)


def rings(pair: Pair) -> Row | None:
    """Of a wound rotor: the resistor and the rings' leads were chosen by its volts and amperes."""
    if {pair.old.plate.family, pair.new.plate.family} != {Family.WOUND}:
        return None
    values = [(one.plate.rotor_volts_v, one.plate.rotor_current_a) for one in (pair.old, pair.new)]
    texts = [f"{write(volts, 3)} V, {write(amps, 3)} A" if volts and amps else "" for volts, amps in values]
    row = Said("rings", "Rotor's rings", texts[0], texts[1])
    (old_v, old_a), (new_v, new_a) = values
    if not (old_v and old_a and new_v and new_a):
        return row.lacking("rotor volts and amperes")
    unlike, more = (new_v / new_a) / (old_v / old_a), new_a / old_a
    if abs(unlike - 1) <= _RING_PU and more <= 1 + _SAME_PU:
        return row.put(fits=Fits.SAME, text="The resistor suits it as it is.", source=_RINGS)
    if more > 1 + _SAME_PU:
        text = f"Its rings carry {100 * (more - 1):.0f} % more, its resistance is {unlike:.2f} × the old one's."
        return row.put(fits=Fits.NOT, text=text, source=_RINGS,
                       task="Resistor, its leads and contactors for the new rotor's amperes.")  # fmt: skip
    return row.put(fits=Fits.WITH, text=f"Its resistor is {unlike:.2f} × the old one's, by U_2/I_2.", source=_RINGS,
                   task="Steps of the resistor set anew for the new rotor.")  # fmt: skip


def efficiency(pair: Pair) -> Row | None:
    """Nominal against nominal; a higher speed may eat what a better motor saves: see the speed."""
    old, new = pair.old.plate.efficiency_pu, pair.new.plate.efficiency_pu
    row = Said("efficiency", "Efficiency", f"{100 * old:.1f} %" if old else "", f"{100 * new:.1f} %" if new else "")
    if old is None and new is None:
        return None
    if old is None or new is None:
        return row.lacking("efficiency")
    if new >= old - 0.002:
        return row.put(fits=Fits.SAME, text="At least as good, nominal against nominal.")
    watts = (pair.load_w or pair.old.power_w or 0.0) * (1 / new - 1 / old)
    return row.put(
        fits=Fits.WITH,
        text=f"Worse: {write(watts / 1000, 2)} kW more from the line at the same work.",
        source="NEMA MG 1:2021 12.58; IEC 60034-30-1:2014",
        task="Accept the price of its losses.",
    )


def synchronous_rpm(machine: Machine) -> float | None:
    return machine.rated.synchronous.value if machine.rated.synchronous else None


def rated_nm(machine: Machine) -> float | None:
    """Rated torque, N·m."""
    if machine.power_w is None or machine.rated.speed is None:
        return None
    return machine.power_w / (machine.rated.speed.value * math.pi / 30)
