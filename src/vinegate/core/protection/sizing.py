"""What a rule set decides of the five devices: the protocol, and figures and gates that both share."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import Final

from vinegate.core.drive.amperes import too_large
from vinegate.core.drive.facts import Drive
from vinegate.core.fed import two_lines
from vinegate.core.grade import Gate, Verdict, at_least, at_most, confirm, informs, rule, unknown
from vinegate.core.numbers import write, write_up
from vinegate.core.plate.protector import opens_by_itself
from vinegate.core.protection.bands import Band
from vinegate.core.protection.generator import seen_in_time, utility_left_out
from vinegate.core.protection.hold import Hold, by_maker, held, hold, least_s
from vinegate.core.protection.need import Device, Need
from vinegate.core.records import replace
from vinegate.core.sheet import Sheet
from vinegate.core.start.way import Windings
from vinegate.core.turning import Room, Taken, point
from vinegate.core.working import Figure, Provenance

_FUSES: Final = ("time-delay", "fuse", "class-cc", "gg", "am")


def fuse_rating_a(band: Band | None) -> float:
    """Amperes of the fuses; nought where the short-circuit device is a breaker or not known."""
    return band.rating_a if band is not None and band.device in _FUSES else 0.0


def fuses_fit(switch_a: float, fuse_a: float, advised_a: float, source: str) -> tuple[Gate, ...]:
    """Fuses that are larger than the switch stand in a block of their own: to be seen to on site."""
    if switch_a >= fuse_a:
        return ()
    text = f"{fuse_a:g} A fuses do not go into a {switch_a:g} A switch: in a block of their own, or {advised_a:g} A."
    return (confirm("protection.fuses_fit", "Fuses and their switch", False, text, source),)


def largest(sizes: Iterable[str | None], area: Callable[[str], float]) -> str | None:
    """The largest of sizes by their area; None where one of them is none.

    >>> largest(("6 AWG", "4 AWG"), {"6 AWG": 26.2, "4 AWG": 41.7}.__getitem__), largest(("6 AWG", None), len)
    ('4 AWG', None)
    """
    found = list(sizes)
    every = [size for size in found if size is not None]
    return max(every, key=area) if every and len(every) == len(found) else None


def whatever_is_not_said(gate: Gate, least: Callable[[], str | None], otherwise: str) -> Gate:
    """A run that is to check over how it is laid: the size that needs no such word, not the least as assumed."""
    if gate.verdict is not Verdict.CHECK:
        return gate
    size = least()
    return replace(gate, remedy=f"At least {size}, whatever is not said of it." if size else f"{otherwise}.")


def electronic_starter(need: Need, source: str) -> Device:
    """A soft starter or drive is rated in amperes by its maker, for the start asked of it."""
    used, drawn = need.used, need.together
    amps = drawn.shown if drawn else "–"
    begins = ""
    if used and used.times_rated:
        lasts = f"for {write(used.time_s, 2)} s" if used.time_s is not None else "and it never reaches speed"
        begins = f", {used.times_rated:.1f} × {lasts}"
    beside = "line contactor" if need.way.rectifies else "bypass and line contactors"
    text = f"Rated by its maker: {amps} running{begins}; {beside} by its listing."
    return Device(
        key="starter",
        name="Drive" if need.way.converts else "Soft starter",
        current=drawn,
        rule="maker's rating for this start",
        asked=f"≥ {amps}{begins}",
        advised=f"≥ {amps}",
        chosen=f"{write(given)} A" if (given := need.circuit.protection.electronic_a) else "by maker",
        gates=(_rated_by_maker(need, text, source), *_far_above(need), *directions(need, source)),
        path="protection.electronic",
    )


def directions(need: Need, source: str, least: str = "") -> tuple[Gate, ...]:
    """Two contactors that turn a reduced start stand ahead of it and carry all of it; across the line they are it."""
    way, amps = need.way, need.flows_each
    apart = way.electronic or way.windings is not Windings.WHOLE
    if need.circuit.start.reversing != "yes" or way.by_frequency or not apart or amps is None:
        return ()
    text = f"Two contactors for its directions stand ahead and carry all of it, {amps.shown}{least and ': '}{least}."
    return (confirm("protection.directions", "Contactors of its directions", False, text, source),)


def _rated_by_maker(need: Need, text: str, source: str) -> Gate:
    """Judged where its rated amperes are given; else the maker's word is for the checklist."""
    given, drawn = need.circuit.protection.electronic_a, need.together
    if given is None or drawn is None:
        return confirm("protection.starter", "Starter rated for this start", False, text, source)
    return at_least(
        "protection.starter", "Starter", given, drawn.value, sentence=f"{write(given)} A given. {text}", source=source,
        unit="A", remedy=f"One rated for at least {write_up(drawn.value)} A.",
    )  # fmt: skip


def _far_above(need: Need) -> tuple[Gate, ...]:
    given, drawn = need.circuit.protection.electronic_a, need.together
    if given is None or drawn is None:
        return ()
    return too_large("protection.starter_size", "protection.electronic", "starter", drawn.value, given)


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
    plate = need.circuit.plate
    wanted = ("plate.full_load_current", words)
    absent = need.rated.lacking(
        (*wanted, plate.full_load_current), ("plate.power", "power", plate.power_w),
        ("plate.volts", "plate volts", plate.volts),
    )  # fmt: skip
    return sheet.needs(absent or need.rated.lacking((*wanted, None)), "the devices' sizes")


def table(sheet: Sheet, key: str, name: str, symbol: str, value: float, unit: str, source: str) -> Figure:
    """A tabulated figure on the sheet."""
    return sheet.given(key, name, symbol, value, unit, provenance=Provenance.TABLE, source=source)


def holds_gate(need: Need, band: Band | None, what: str) -> Gate:
    """Whether the device lets the motor start: acceleration, first-cycle peak and reclosing spike.

    The device that is fitted, not the advised one, at both ends of the locked-rotor band. Where its curve is a usual
    device's and not the standard's limit, opening by it is to check, not to fail.
    """
    key, name = "protection.holds", "Holds the start"
    if band is None:
        return unknown(key, name, ("a rating that is tabulated",))
    found = hold(need, band)
    if found.holds is None or (found.share is None and band.earliest):
        gate = unknown(key, name, need.start_lacks or ("the start, simulated",))
        return informs(gate) if need.impossible else gate
    stated = by_maker(need, band)
    found = found if stated is None else replace(found, share=stated)
    share = hold(need, band, promised=False).share if found.past else found.share
    source = f"{'its maker' if stated is not None else band.source}; shares of least opening time added along the start"
    used = max(share or 0.0, (found.peak_a or 0.0) / found.pickup_a if found.pickup_a else 0.0)
    text = f"{what} {'carries it' if found.holds else 'may open'}: {_hold_words(need, found, stated, share or 0.0)}."
    carries = _carries(need, band, found, stated)
    rests, room = _behind(need, found, share or 0.0, carries)
    remedy = "A larger rating where the rules allow it, a slower device, or a gentler start; or the maker's curve."
    return at_most(
        key, name, min(100 * used, 100 * _FAR), 100.0, sentence=text, source=source, unit="%", remedy=remedy,
        rests=rests, room=room,
    )  # fmt: skip


def _behind(need: Need, found: Hold, share: float, carries: Taken | None) -> tuple[list[Taken], Room]:
    """Facts behind it, and what is left of its least opening time and of its release's least amperes."""
    peak, pickup = found.peak_a, found.pickup_a
    amps, sag = (need.current, need.sag) if not held(need) else (None, None)
    angle = sag.factor if sag is not None and peak is not None else None
    rests = [one for one in (carries, amps, angle) if one is not None]

    def room(*facts: float) -> float:
        said = dict(zip((one.label for one in rests), facts, strict=True))
        longer = said[carries.label] / carries.value if carries is not None else 1.0
        more = said[amps.label] / amps.value if amps is not None else 1.0
        left = 1.0 - min(share * more**2, _FAR) / longer
        if peak is None or pickup is None:
            return left
        higher = more if sag is None or angle is None else sag.higher(more * sag.current.value, said[angle.label])
        return min(left, 1.0 - peak * higher / pickup)

    return rests, room


def _carries(need: Need, band: Band, found: Hold, stated: float | None) -> Taken | None:
    """How long the device carries locked-rotor current: by its maker's curve, else as the least usual device does.

    None where a magnetic release alone decides, or the standard's own limit says it all.
    """
    path, label, said = "protection.holds", "time it carries the inrush", need.circuit.protection.holds_s
    if stated is not None and said is not None:
        return point(said, path=path, label=label, unit="s")
    if need.current is None or not found.peak_fits or not (band.estimated or found.past):
        return None
    least = least_s(need, band)
    if not 0 < least < float("inf"):
        return None
    return Taken(
        path=path, label=label, unit="s", value=least, low=least / _FAR if found.past else least,
        high=_MAKERS_SLOWER * least, how="of the least usual device",
    )  # fmt: skip


_MAKERS_SLOWER: Final = 3.0  # a maker's device may carry a current so many times longer than the least usual one
_FAR: Final = 1e3


def _hold_words(need: Need, found: Hold, stated: float | None, share: float) -> str:
    parts = []
    if found.share is not None:
        if stated is not None:
            said = write(need.circuit.protection.holds_s or 0.0, 3)
            parts.append(f"the start uses {write(100 * stated, 2)} % of what it carries, by {said} s of its inrush")
        elif found.past:
            said = f"the start uses {write(100 * share, 2)} % of what the heat of a usual one lasts"
            parts.append(f"its current passes what is promised to be carried; {said}")
        else:
            parts.append(f"the start uses {write(100 * found.share, 2)} % of its least opening time")
    if found.peak_a is not None and found.pickup_a is not None:
        parts.append(f"peak {found.peak_a:.0f} A as rms, trips from {found.pickup_a:.0f} A")
    return ", ".join(parts)


def overtemperature_gate(need: Need, source: str) -> Gate:
    """A motor on a drive is cooled by its own speed: something other than current has to watch its temperature."""
    plate, facts = need.circuit.plate, need.circuit.protection
    inside = opens_by_itself(plate.thermal_protection)
    on_it = need.circuit.of("drive", Drive)
    aware = on_it.speed_aware == "yes" and need.motors == 1
    watched = facts.thermistor == "yes" or inside or aware
    text = "Its thermistors or protector watch the winding at every speed."
    if aware and not inside and facts.thermistor != "yes":
        text = "The drive's overload knows the speed and keeps its memory, as its sheet has it."
    if not watched:
        text = "Thermistors, a protector, or the drive's speed-dependent overload with memory: one of them at least."
    return confirm("protection.overtemperature", "Motor's temperature at low speed", watched, text, source)


_FAST_FUSES: Final = "IEC 60269-4: fuse-links for semiconductor devices"


def clears_gates(need: Need, band: Band | None, within_s: float, source: str) -> tuple[Gate, ...]:
    """None behind a drive: faults at the motor are the drive's own to stop, the device stands for those ahead of it."""
    if need.way.rectifies:  # its thyristors let the lines feed one
        text = "A fault behind its thyristors is cleared by the fast fuses that the drive's maker names."
        return (confirm("protection.fast_fuses", "Fast fuses by the drive's maker", False, text, _FAST_FUSES),)
    return () if need.way.converts else (clears_gate(need, band, within_s, source),)


def least_touching_a(far: Figure, need: Need) -> float:
    """The least fault at the motor, A: line and neutral of what hangs between them, else two lines."""
    return 1000 * far.value * (1.0 if need.neutral else 3**0.5 / 2)


def clears_gate(need: Need, band: Band | None, within_s: float, source: str) -> Gate:
    """Whether it surely opens on a fault between lines at the motor's end, the least that hurts."""
    key, name = "protection.clears", "Clears a fault at the motor"
    if band is None or need.far is None:
        lacks = () if need.far is not None else need.lacks_far or ("the supply",)
        return unknown(key, name, (*lacks, *([] if band else ["a rating that is tabulated"])))
    least = least_touching_a(need.far, need)
    asked = band.sure_a(within_s)
    if asked == float("inf"):
        return unknown(key, name, ("the device's own curve",))
    touching = "Line and neutral touching" if need.neutral else "Lines touching"
    seen = seen_in_time(need, band, least, within_s)
    if seen is None:
        return unknown(key, name, ("the generator's sustained fault current",))
    least = seen
    text = f"{touching} at the motor draw {least:.0f} A; it opens within {write(within_s)} s from {asked:.0f} A."
    said = need.circuit.protection.clears_a
    if said is not None:
        asked = said
        text = f"{touching} at the motor draw {least:.0f} A; by its curve it opens in time from {asked:.0f} A."
    low, high = _ESTIMATED_CLEARS if band.estimated and said is None else (1.0, 1.0)
    opens = Taken(
        path="protection.clears", label="opening current by its curve", unit="A", value=asked, low=asked * low,
        high=asked * high, how="of usual devices" if high > 1 else "", given=high == 1,
    )  # fmt: skip
    loop_mohm = 1000 * need.feed.volts_v / 3**0.5 / (1000 * need.far.value) if need.feed else 0.0
    weak = utility_left_out(need, loop_mohm)
    return at_least(
        key, name, least, asked, sentence=text, source=source, unit="A", rests=(opens, *weak),
        room=lambda amps, *left: least * (left[0] if left else 1.0) - amps,
        remedy="A larger or shorter run, or a device that opens at less.",
    )  # fmt: skip


# Of usual devices' opening currents: a curve that is not the fitted device's own never settles it.
_ESTIMATED_CLEARS: Final = (0.5, 1000.0)


def rating_gate(need: Need, source: str) -> Gate:
    """The assembly's short-circuit rating against the fault current where it stands; its plate is for the checklist."""
    key, name = "protection.short_circuit_rating", "Short-circuit rating"
    rated = need.circuit.protection.short_circuit_rating_a
    if need.fault is None:
        return unknown(key, name, need.supply_lacks or ("the supply",))
    faults, own = need.faults, need.motor_fault.value if need.motor_fault else 0.0
    assert faults is not None
    fault = 1000 * (faults.most(*(one.value for one in faults.rests)) + own)
    line = "" if faults.one_line == 1 else " to neutral" if two_lines(need.job, need.circuit) else " to ground"
    counted = "its own motor counted" if own or not need.way.converts else "its drive feeding none back"
    at_board = f"{write(fault / 1000, 3)} kA{f' from a line{line}' if line else ''} at its board, {counted}"
    if rated is None:
        return confirm(key, name, False, f"Marked on the assembly: at least {at_board}.", source)
    text = f"{at_board}, rated {write(rated / 1000, 3)} kA."
    return at_least(
        key, name, rated, fault, sentence=text, source=source, unit="A", rests=faults.rests,
        room=lambda *facts: rated - 1000 * (faults.most(*facts) + own),
        remedy="An assembly with a higher rating, or a current-limiting device listed with it.",
    )  # fmt: skip


def coordination_gate(need: Need, source: str) -> Gate:
    """Type 1 or 2: a tested combination's, for the checklist."""
    key, name = "protection.coordination", "Coordination with the starter"
    said = need.circuit.protection.coordination
    text = {
        None: "Type 1 or 2, from the maker's tested combination.",
        "1": "Type 1: after a fault the starter may need repair.",
        "2": "Type 2: fit for service after a fault.",
    }
    return confirm(key, name, said is not None, text[said], source)


def in_sight_gate(need: Need, source: str) -> Gate:
    """In sight of the motor, and lockable open: for the checklist, unless what is said of it is not allowed."""
    key, name = "protection.in_sight", "Disconnect in sight, lockable"
    sight, lock = need.circuit.protection.in_sight, need.circuit.protection.lockable
    if sight == "no" and lock == "no":
        text = "Out of sight of the motor, and it cannot be locked."
        return rule(key, name, False, text, source, remedy="A lockable switch in sight of the motor.")
    if sight == "yes":
        text = "In sight of the motor" + (", lockable open." if lock == "yes" else "; make it lockable.")
        return confirm(key, name, lock == "yes", text, source)
    if sight == "no" and lock == "yes":
        text = "Out of sight, lockable open: allowed only where one in sight is impracticable or adds hazard."
        return confirm(key, name, False, text, source)
    return confirm(key, name, False, "In sight of the motor, and lockable open.", source)
