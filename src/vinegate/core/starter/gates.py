"""The control circuit judged: proof, races, its timer, what is wished, what starts by itself."""

from __future__ import annotations

from typing import Final, Protocol

from vinegate.core.facts import Circuit as Facts
from vinegate.core.grade import Gate, breaks, changes, confirm, from_answer, meets, rule, unknown
from vinegate.core.numbers import write
from vinegate.core.starter.asked import ends_by
from vinegate.core.starter.facts import Starter
from vinegate.core.starter.logic import Circuit
from vinegate.core.starter.merge import WALKED
from vinegate.core.starter.proof import Proof
from vinegate.core.starter.timing import LEAST_MS, SOURCE, Race
from vinegate.core.starter.wishes import LeftOut
from vinegate.core.wording import inside

_TIMER_LEAST, _TIMER_MOST = 0.9, 1.5
_IN_TURN: Final = "three wires; the job's restart order"
_SAME: Final = 0.1
"""Of a time that is written twice."""
_BY_HAND: Final = "how far volts may change at once goes by who switches: the start's sheet"
_JOGS: Final = "NEMA ICS 2 and IEC 60947-4-1:2018 AC-4: more than five openings a minute, or ten in ten"
_PROOF: Final = "every state and every order of travel walked; IEC 60204-1:2016 9.2 and 9.3; NFPA 79:2024 9.2 and 9.3"


class Proved(Protocol):
    """What is judged of a drawing."""

    @property
    def circuit(self) -> Circuit: ...
    @property
    def proof(self) -> Proof: ...
    @property
    def races(self) -> tuple[Race, ...]: ...


def gates_of(
    circuit: Facts, facts: Starter, drawn: Proved, lacks: tuple[LeftOut, ...], suits_s: float | None,
    *, star: bool,
) -> list[Gate]:  # fmt: skip
    """Proof, races, timer, what is wished, a restart by itself; `star` is whether its windings begin in one."""
    found = [_proof_gate(facts, drawn), *_race_gates(facts, drawn)]
    timed = any(one.transition for one in drawn.circuit.devices)
    if facts.timer_s is not None and suits_s is not None and timed:
        found.append(_timer_gate(facts.timer_s, suits_s))
    if star:
        found += _ends_gate(circuit, facts)
    if lacks:
        found.append(_wished_gate(facts, lacks))
    if drawn.circuit.restarts or drawn.circuit.automatic or drawn.circuit.rides:
        found.append(_restart_gate(circuit, drawn.circuit))
    elif circuit.start.restart == "yes" or circuit.start.restart_at_s:
        text = "Said to restart after an outage: its buttons start nothing by themselves, a person does it in its turn."
        found.append(confirm("starter.restart", "Restarted after an outage", False, text, _IN_TURN))
    if drawn.circuit.windings:
        found += [_low_gate(facts), _one_device(), _low_start()]
    return [*found, *_live_gate(facts), *_said_elsewhere(circuit, facts, drawn.circuit)]


def _said_elsewhere(circuit: Facts, facts: Starter, drawn: Circuit) -> list[Gate]:
    """What its buttons ask of protection, and the stop of its buttons."""
    found, jogs = [], circuit.protection.jogging
    by_contactor = not any(one.of_input for one in drawn.devices)
    if "jog" in drawn.grants and by_contactor and jogs is None:
        found.append(unknown("starter.jogs", "Contactor made for its jog", ("whether it jogs repeatedly",)))
    elif "jog" in drawn.grants and by_contactor:
        text = "Sized for jogging on the protection's sheet." if jogs == "yes" else "It jogs seldom, as said there."
        found.append(rule("starter.jogs", "Contactor made for its jog", True, text, _JOGS))
    if circuit.load.kind == "hoist" and not drawn.limits:
        found.append(_ends_gate_of_hoist(facts))
    by_itself, switched = drawn.restarts or bool(drawn.automatic), circuit.start.switching
    if by_itself and switched in ("manual", "rare"):
        text = "Said to be switched by hand, which may dip deeper: what works this contact is a person, and no float."
        found.append(confirm("starter.switched", "Switched as its dip is judged", False, text, _BY_HAND))
    own_s, order_s = facts.restart_s, circuit.start.restart_at_s
    if "restart_s" in drawn.grants and own_s and order_s and abs(own_s - order_s) > _SAME * order_s:
        text = f"Its relay waits {write(own_s, 3)} s after an outage; the restart order says {write(order_s, 3)} s."
        found.append(rule("starter.restart_delay", "Restarts in its turn", False, text, "said here and in the order",
                          remedy="One of the two, for both."))  # fmt: skip
    if facts.emergency == "no" and circuit.stop.emergency is not None:
        text = f"The stop's sheet asks an emergency stop of category {circuit.stop.emergency}; it is said to have none."
        found.append(rule("starter.emergency", "Emergency stop", False, text, "asked on the stop's sheet",
                          remedy="An emergency stop, latched."))  # fmt: skip
    return found


def _live_gate(facts: Starter) -> list[Gate]:
    """What is fed from elsewhere stays live when this circuit's disconnect is open."""
    whose = [*(["its direct current"] if facts.control_from == "dc" else []),
             *(["the circuit that it follows"] if facts.follows == "yes" else [])]  # fmt: skip
    if not whose:
        return []
    text = (
        f"With its disconnect open, wires of {' and '.join(whose)} stay live: opened with it, or by one beside it; "
        "marked, and in a colour of their own."
    )
    source = "NFPA 70:2023 430.75(A), 430.113; IEC 60204-1:2016 5.3.5, 16.1"
    return [confirm("starter.live", "Dead when its disconnect is open", False, text, source)]


def _ends_gate_of_hoist(facts: Starter) -> Gate:
    """What lifts is stopped at its upper end by a limit switch."""
    key, name, source = "starter.upper_end", "Stopped at its upper end", "NFPA 70:2023 610.55; IEC 60204-32:2023"
    if facts.limits is None:
        return unknown(key, name, ("limit switches",))
    there = "It has limit switches; they are not in this drawing."
    text = there if facts.limits == "yes" else "Without a limit switch it pulls its load into its drum."
    return rule(key, name, facts.limits == "yes", text, source, remedy="A limit switch in its lifting direction.")


def _wished_gate(facts: Starter, lacks: tuple[LeftOut, ...]) -> Gate:
    """What is asked and not drawn here stands on a drawing of its own, or nowhere."""
    key, name = "starter.wished", "All that is wished is drawn"
    listed = ", ".join(inside(one.name) for one in lacks)
    if facts.elsewhere == "yes":
        text = f"Not here: {listed}. On a drawing of its own, as stated: its interlocks tried with this one's."
        return confirm(key, name, False, text, _PROOF)
    if facts.elsewhere == "no":
        return rule(key, name, False, f"Not drawn: {listed}.", _PROOF, remedy="Have it drawn, or leave it out.")
    return unknown(key, name, (f"whether {listed} has a drawing of its own",))


def _ends_gate(circuit: Facts, facts: Starter) -> list[Gate]:
    """An operator's judgement ends it too early or too late; and what ends it is one thing on both sheets."""
    key, name = "starter.ends", "What ends the star"
    here, planned = ends_by(circuit, facts), circuit.start.changeover_by or "timer"
    words = {"timer": "a timer", "speed": "a speed switch"}
    if here == "operator":
        text = "Its operator ends it: too early it is nearly a full inrush, too late it hangs or heats."
        remedy = "A timer, set as the start's sheet has it, or a speed switch."
        return [from_answer(key, name, changes(text, "the start's study holds for a moment or a speed"), remedy=remedy)]
    if here != planned:
        text = f"It is drawn with {words[here]}, and the start is judged with {words[planned]}."
        return [from_answer(key, name, changes(text, "one circuit"), remedy="Say the same on the start's sheet.")]
    return []


def _one_device() -> Gate:
    """The device ahead is chosen for the speed that draws most, and stands ahead of both."""
    text = (
        "One device, chosen for the speed that draws most, protects both: the low speed's wires and contactor are "
        "chosen as the high speed's, or tried with that device by its maker."
    )
    source = "NFPA 70:2023 430.52(C)(4), exception; IEC 60947-4-1:2018 8.2.5.1"
    return confirm("starter.one_device", "One device for both speeds", False, text, source)


def _low_start() -> Gate:
    """The plate's figures are the high speed's: of a start in the low one it says nothing."""
    text = "The start is judged at the high speed; at the low one its torque and amperes at rest are its maker's word."
    return confirm("starter.low_start", "Starts at the low speed too", False, text, "NFPA 70:2023 430.7(B)(1)")


def _low_gate(facts: Starter) -> Gate:
    """Each speed has amperes of its own, and an overload of its own."""
    key, name = "starter.low_overload", "Overload of the low speed"
    if facts.low_current_a is None:
        return unknown(key, name, ("amperes at low speed, by the plate",))
    text = f"Set by its own {write(facts.low_current_a, 3)} A; it stands behind the low speed's contactor."
    return from_answer(key, name, meets(text, "NFPA 70:2023 430.32; IEC 60947-4-1:2018: one for each speed"))


def _proof_gate(facts: Starter, drawn: Proved) -> Gate:
    """Proved as drawn; a drawing with bridged contacts never passes, whatever its logic still does."""
    key, name, proof = "starter.proof", "Control circuit proved", drawn.proof
    wrong = next((one for one in proof.shown if not one.holds), None)
    if wrong is not None:
        steps = ", then ".join(wrong.breaks)
        text = f"{wrong.name}: not so. {steps[:1].upper()}{steps[1:]}."
        return from_answer(key, name, breaks(text, _PROOF), remedy="Put the contact back, or draw it otherwise.")
    if not proof.whole:
        return unknown(key, name, (f"what lies beyond the first {proof.states} states: it is too large to walk",))
    if facts.bridged:
        text = f"Bridged: {'; '.join(facts.bridged)}. Its logic still holds, but no longer against a single fault."
        return from_answer(key, name, breaks(text, _PROOF), remedy="Take the bridges out.")
    text = (
        f"{drawn.circuit.name[:1].upper()}{drawn.circuit.name[1:]}: {len(proof.shown)} requirements in "
        f"{proof.states} states."
    )
    if len(drawn.circuit.chain) > WALKED:
        text += f" Of its {len(drawn.circuit.chain)} steps, that are wired alike, {WALKED} are walked."
    return from_answer(key, name, meets(text, _PROOF))


def _race_gates(facts: Starter, drawn: Proved) -> list[Gate]:
    """Contactors that must never meet: by time, or by a lock."""
    worst = min(drawn.races, key=lambda one: one.margin_ms, default=None)
    if worst is None:
        return []
    key, name = "starter.race", "Contactors kept apart while they change over"
    text = (
        f"From {worst.first} to {worst.second} at worst {write(worst.margin_ms, 2)} ms lie between the end "
        "of its arc and "
        f"the next closing; {LEAST_MS:g} ms are asked"
    )
    if worst.margin_ms >= LEAST_MS:
        return [rule(key, name, True, f"{text}.", SOURCE, value=worst.margin_ms, limit=LEAST_MS, unit="ms")]
    if facts.lock == "yes":
        return [rule(key, name, True, f"{text}; a mechanical interlock keeps them apart.", SOURCE)]
    if facts.lock is None:
        return [unknown(key, name, ("whether a mechanical interlock keeps the contactors apart",))]
    return [
        rule(
            key,
            name,
            False,
            f"{text}, and no lock keeps them apart.",
            SOURCE,
            remedy="A mechanical interlock, or a pause between them.",
            value=worst.margin_ms,
            limit=LEAST_MS,
            unit="ms",
        )
    ]


def _timer_gate(timer_s: float, suits_s: float) -> Gate:
    """Long enough for this run-up, and not so long that it hangs in its first connection for nothing."""
    key, name, source = "starter.timer", "Timer suits the run-up", "the start's study of this machine and load"
    least, most = _TIMER_LEAST * suits_s, _TIMER_MOST * suits_s + 2.0
    text = f"{write(timer_s, 3)} s; it is up to speed for the change-over after {write(suits_s, 3)} s"
    if timer_s < least:
        return rule(key, name, False, f"{text}: it changes over while it still runs up.", source,
                    remedy=f"Set it to {write(suits_s, 3)} s.", value=timer_s, limit=least, unit="s")  # fmt: skip
    if timer_s > most:
        return rule(key, name, False, f"{text}: it hangs in its first connection for nothing.", source,
                    remedy=f"Set it to {write(suits_s, 3)} s.", value=timer_s, limit=most, unit="s")  # fmt: skip
    return rule(key, name, True, f"{text}.", source)


def _restart_gate(circuit: Facts, drawn: Circuit) -> Gate:
    what = "Two wires" if drawn.restarts else "Within its ride" if drawn.rides else "In auto"
    key, name = "starter.restart", "Starts by itself when power returns"
    said, source = circuit.protection.restart_harmless, "NFPA 79:2024 7.5; IEC 60204-1:2016 7.5"
    if circuit.start.restart == "no" and not drawn.rides:
        text = f"{what}: it starts as soon as power is back; the start's sheet says that it stays off after an outage."
        return rule(key, name, False, text, source, remedy="Buttons with three wires, or a restart that is wanted.")
    if said is None:
        return unknown(key, name, ("whether an unexpected restart is harmless",))
    text = f"{what}: it starts as soon as power is back. Nobody can be hurt by it, as stated." if said == "yes" else (
        f"{what}: it starts as soon as power is back, and that may hurt someone.")  # fmt: skip
    return rule(key, name, said == "yes", text, source, remedy="Buttons with three wires.")
