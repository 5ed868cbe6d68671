"""The starter's sheet: its circuit drawn and alive, what was proved, what single faults do, parts and wires."""

from __future__ import annotations

import csv
import io
import json
import re
from dataclasses import asdict, dataclass, replace
from typing import Any
from urllib.parse import urlencode

from flask import request, url_for
from markupsafe import Markup

from vinegate.core.answer import Piece
from vinegate.core.grade import Verdict, worst_judged
from vinegate.core.paper import PaperPicture
from vinegate.core.plan import Plan
from vinegate.core.rules.dialect import say
from vinegate.core.starter.faults import Case, Class
from vinegate.core.starter.leads import delta_joins
from vinegate.core.starter.logic import Kind
from vinegate.core.starter.machine import Moving
from vinegate.core.starter.meter import Meter
from vinegate.core.starter.motor import Relay
from vinegate.core.starter.run import Run, acts_from
from vinegate.core.starter.stage import STARTER, Drawn
from vinegate.core.starter.turning_run import ran_turning, switches_of
from vinegate.drawing.dxf import dxf
from vinegate.drawing.ladder import Live, ladder
from vinegate.drawing.legend import legend
from vinegate.drawing.phasors import phasors, recloses_pu
from vinegate.drawing.power import power
from vinegate.drawing.scene import Scene, svg
from vinegate.web.stages.page import InHand, Page
from vinegate.web.stages.starter.asked import CONTROL, asked_first
from vinegate.web.stages.starter.hunt import Hunt, case_of, hunt_of, hunting
from vinegate.web.stages.starter.over_time import over_time

_LONGEST = 1500
_LONGEST_WAIT_S = 600.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Button:
    """Something to press on the running circuit: what it says, where it leads, whether it is worked now."""

    text: str
    href: str
    worked: bool
    springs: str = ""
    """Of a button that springs back: its tag."""


def _answer(plan: Plan) -> tuple[Piece, ...]:
    drawn = plan.of(STARTER)
    if drawn is None:
        return (Piece("No control circuit is drawn for this machine and its way to start."),)
    gate = plan.gate("starter.proof")
    name = say(drawn.circuit.name, plan.rules.value)
    if gate.verdict.usable:
        bad = [fault for fault in drawn.faults if fault.ends is Class.DANGEROUS]
        return (
            Piece(f"{name[:1].upper()}{name[1:]}: "),
            Piece("proved", strong=True),
            Piece(
                f" in {drawn.proof.states} states, however its contactors travel. Of {len(drawn.faults)} single faults "
            ),
            Piece(str(len(bad)), strong=True),
            Piece(" are dangerous: they are named below."),
        )
    return (Piece("Fails: "), Piece(gate.name.lower(), strong=True), Piece(f". {gate.sentence} {gate.remedy}"))


@dataclass(frozen=True, slots=True, kw_only=True)
class Played:
    """The run of the address with the fault that is in it, told or hidden."""

    run: Run
    text: str
    number: str
    case: Case | None
    hunt: Hunt

    def to(self, address: str, word: str = "") -> str:
        """The address of the same run with a word more; one wait after another is one."""
        keeps = {
            "run": _waited(self.text, word),
            **({"fault": self.number} if self.number else {}),
            **self.hunt.keeps(),
        }
        return f"{address}?{urlencode(keeps)}#alive"


def _waited(text: str, word: str) -> str:
    """Seconds waited are added to those waited just before, so that a run that is watched stays short.

    >>> _waited("START+ w0.1", "w1"), _waited("w1", "STOP+")
    ('START+ w1.1', 'w1 STOP+')
    """
    ahead, _, last = text.rpartition(" ")
    waits = [re.fullmatch(r"w(\d+(?:\.\d+)?)", one) for one in (last, word)]
    if waits[0] and waits[1] and float(waits[0][1]) + float(waits[1][1]) <= _LONGEST_WAIT_S:
        return f"{ahead} w{round(float(waits[0][1]) + float(waits[1][1]), 3):g}".strip()
    return f"{text} {word}".strip()


def _played(drawn: Drawn) -> Played:
    text, number, hunt = str(request.values.get("run", ""))[:_LONGEST], str(request.values.get("fault", "")), hunt_of()
    case = case_of(drawn.circuit, hunt, number)
    if hunt.seed and case is None:  # a circuit that hurts without any has none to hide
        hunt = replace(hunt, seed="")
    run = ran_turning(drawn.circuit, acts_from(text), drawn.shaft, seed=1, fault=case)
    return Played(run=run, text=text, number=number if case and not hunt.seed else "", case=case, hunt=hunt)


def _buttons(drawn: Drawn, played: Played, address: str) -> list[Button]:
    """Each input worked or let go, the power, and time to pass."""
    run = played.run

    def to(word: str) -> str:
        return played.to(address, word)

    found = []
    turned = switches_of(drawn.circuit) if drawn.shaft and not drawn.shaft.by_frequency else {}
    for one in drawn.circuit.inputs:
        if one.tag in turned:
            continue
        worked = one.tag in run.pressed
        verb = ("reset" if worked else "trip") if one.kind is Kind.GUARD else ("let go" if worked else "press")
        word = f", {one.name}" if one.name.upper() != one.tag and drawn.lettered else ""
        found.append(
            Button(
                text=f"{verb} {one.tag}{word}",
                href=to(f"{one.tag}{'-' if worked else '+'}"),
                worked=worked,
                springs=one.tag if one.kind is Kind.BUTTON else "",
            )
        )
    on = run.state.power
    found.append(
        Button(
            text="take the power away" if on else "give power back",
            href=to(f"power{'-' if on else '+'}"),
            worked=not on,
        )
    )
    found += [Button(text=f"wait {time} s", href=to(f"w{time}"), worked=False) for time in ("0.1", "1", "10", "60")]
    return found


def _keeps(played: Played) -> str:
    """Where a run without a fault is written into the record; nowhere for one that has not begun."""
    if not played.text or played.case is not None:
        return ""
    view = request.view_args or {}
    return url_for(
        "record.measure",
        job_id=view.get("job_id", 0),
        tag=view.get("tag", ""),
        form="record_before",
        run=played.text,
        _anchor="box-record_before-run",
    )


def _context(hand: InHand) -> dict[str, Any]:
    drawn = hand.plan.of(STARTER)
    if drawn is None:
        return {"drawn": None}
    played = _played(drawn)
    run, case = played.run, played.case
    moving = case.moving(drawn.circuit) if case else Moving(drawn.circuit)
    view = request.view_args or {}
    address = url_for("circuit.sheet", job_id=view.get("job_id", 0), tag=view.get("tag", ""), station="starter")
    meter = Meter(circuit=drawn.circuit, netlist=drawn.netlist, moving=moving, state=run.state, fault=case)
    return {
        "drawn": drawn,
        "asked_first": asked_first(hand),
        "asked_control": CONTROL,
        "control_said": any(hand.fields[f"starter.{key}"].text for key in CONTROL),
        "run": run,
        "run_text": played.text,
        "buttons": _buttons(drawn, played, address),
        "fault": case.what if case and not played.hunt.seed else "",
        "fault_number": played.number,
        "play": played.to(address, "w0").partition("#")[0],
        "again": address,
        "keeps": _keeps(played),
        "csv": played.to(f"{address}/run.csv").partition("#")[0],
        "ladder": _svg(ladder(drawn.circuit, drawn.netlist, ansi=drawn.us, live=_live(moving, run, played.hunt))),
        "power_drawing": _svg(_power(drawn, run, moving, told=not played.hunt.seed)),
        "legend": _svg(legend(ladder(drawn.circuit, drawn.netlist, ansi=drawn.us), ansi=drawn.us)),
        "phasors": _phasors(drawn),
        "events": _moved(run),
        **hunting(meter, played.hunt, len(played.text.split())),
        **over_time(drawn, run, _relay(hand.plan)),
        **_sorted_faults(drawn),
    }


def _relay(plan: Plan) -> Relay | None:
    overload = plan.protected.overload if plan.protected else None
    return Relay(line_a=overload.line_a.value, trip=overload.trip) if overload and overload.line_a else None


def _phasors(drawn: Drawn) -> dict[str, Any] | None:
    """Both ways to close the delta, against what the open winding still has at this plan's change-over."""
    six_leads = any("T6" in pole for _, poles in drawn.circuit.poles for pole in poles)
    if drawn.spike is None or not six_leads:
        return None
    residual, lag = drawn.spike.residual_pu, drawn.spike.drift_deg
    steps = {way: recloses_pu(way, residual, lag) for way in (1, -1)}
    joins = delta_joins(nema=drawn.us)
    return {"picture": _svg(phasors(residual, lag, joins)), "ahead": steps[1], "behind": steps[-1], "lag": lag,
            "residual": residual, "joins": joins}  # fmt: skip


def _power(drawn: Drawn, run: Run, moving: Moving, *, told: bool) -> Scene:
    closed = moving.poles_in(run.state) if run.state.power else frozenset()
    return power(drawn.circuit, ansi=drawn.us, leg=drawn.overload_leg, on=run.state.power, told=told, closed=closed)


def _live(moving: Moving, run: Run, hunt: Hunt) -> Live:
    """All that is so; while a fault is hunted only what the eye sees: which contactors are in."""
    state = run.state

    def on(tag: str) -> bool:
        return state.coils[moving.tags.index(tag)] >= 2

    if hunt.seed:
        return Live(on=on)
    return Live(closed=lambda of, one: moving.closed(state, of, one), on=on, power=state.power)


def _sorted_faults(drawn: Drawn) -> dict[str, list[dict[str, Any]]]:
    """Faults by how they end, each with its number in the sweep."""
    words = {"dangerous": Class.DANGEROUS, "unnoticed": Class.UNNOTICED, "noticed": Class.NOTICED}
    return {
        word: [{"number": place, **asdict(one)} for place, one in enumerate(drawn.faults) if one.ends is ends]
        for word, ends in words.items()
    }


_POSITION = {0: "out", 3: "in"}
_SHOWN = 14


def _moved(run: Run) -> list[tuple[float, str, str]]:
    """The last devices that came in or fell out, with the second at which they had."""
    found = [one for one in run.events if one.position in _POSITION]
    return [(one.at_ms / 1000, one.tag, _POSITION[one.position]) for one in found[-_SHOWN:]]


def _svg(scene: Any) -> Markup:
    return Markup(svg(scene, "circuit-drawing"))  # noqa: S704 - our own drawing


def _run_csv(plan: Plan) -> tuple[str, str] | None:
    """The run of the address: what moved when, then the motor over time."""
    drawn = plan.of(STARTER)
    if drawn is None:
        return None
    run = _played(drawn).run
    text = io.StringIO()
    rows = csv.writer(text)
    rows.writerow(("time_s", "what", "position", "speed_rpm", "line_a", "board_pu"))
    rows.writerows((f"{one.at_ms / 1000:.4f}", one.tag, one.position, "", "", "") for one in run.events)
    turned = drawn.shaft.turned(run.hangs, run.until_ms / 1000) if drawn.shaft else None
    if turned is not None:
        columns = zip(turned.time_s, turned.speed_rpm, turned.line_a, turned.board_pu, strict=True)
        rows.writerows((f"{t:.4f}", "motor", "", f"{n:.1f}", f"{i:.2f}", f"{u:.4f}") for t, n, i, u in columns)
    return text.getvalue(), "text/csv"


def _scenes(drawn: Drawn) -> tuple[Scene, Scene, Scene]:
    """At rest without power, as a drawing shows it: control, power, what the symbols mean."""
    control = ladder(drawn.circuit, drawn.netlist, ansi=drawn.us)
    return control, power(drawn.circuit, ansi=drawn.us, leg=drawn.overload_leg), legend(control, ansi=drawn.us)


def _pictures(plan: Plan) -> tuple[PaperPicture, ...]:
    drawn = plan.of(STARTER)
    if drawn is None:
        return ()
    return tuple(
        PaperPicture(title=say(scene.title, plan.rules.value), svg=svg(scene, "circuit-drawing"))
        for scene in _scenes(drawn)
    )


def _dxf(plan: Plan) -> tuple[str, str] | None:
    """The drawing at rest; a circuit that is not proved says so in its heading."""
    drawn = plan.of(STARTER)
    if drawn is None:
        return None
    gate = plan.gate("starter.proof")
    heading = (f"Control circuit: {drawn.circuit.name}", f"{gate.verdict}: {gate.sentence}", "As built: ")
    return dxf(_scenes(drawn), heading), "image/vnd.dxf"


def _netlist(plan: Plan) -> tuple[str, str] | None:
    """Elements with their nets, as JSON."""
    drawn = plan.of(STARTER)
    if drawn is None:
        return None
    found = {"circuit": drawn.circuit.name, "elements": [asdict(one) for one in drawn.netlist.elements],
             "parts": [asdict(one) for one in drawn.parts], "wires": [asdict(one) for one in drawn.wiring.wires],
             "terminals": [asdict(one) for one in drawn.wiring.terminals]}  # fmt: skip
    return json.dumps(found, ensure_ascii=False, indent=1), "application/json"


def _headline(plan: Plan) -> Verdict:
    """The circuit's, as on every sheet; of nothing that is drawn nothing is said to pass."""
    return plan.verdict if plan.of(STARTER) is not None else worst_judged(())


PAGE = Page(
    key="starter",
    asks=("starter", "limits.tags", "limits.wire_marks"),
    context=_context,
    answer=_answer,
    headline=_headline,
    files={"netlist.json": _netlist, "run.csv": _run_csv, "drawing.dxf": _dxf},
    pictures=_pictures,
)
