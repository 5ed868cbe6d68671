"""The drive's sheet: its points with their verdicts, what it can, its lead and line, the year, what to set."""

from __future__ import annotations

from typing import Any, Final

from flask import request

from vinegate.core.answer import Piece
from vinegate.core.cautions import BRIDGE_CAUTION, drive_caution
from vinegate.core.drive.answer import drive_answer, drive_verdict, gates_beside
from vinegate.core.drive.parameters import groups
from vinegate.core.drive.stage import DRIVE, Driven
from vinegate.core.grade import Verdict
from vinegate.core.plan import Plan
from vinegate.core.plate.kind import Family
from vinegate.core.rules.dialect import cite
from vinegate.web.stages.drive.charts import VIEWS, chart_of, torque_chart
from vinegate.web.stages.drive.files import as_csv, as_json
from vinegate.web.stages.page import InHand, Page

DUTY: Final = ("drive.points",)
GROUPS: Final = (
    ("Where it works", ("least", "most", "heaviest", "skip", "cycle")),
    (
        "The motor",
        (
            "cooling",
            "winding",
            "peak",
            "full_torque",
            "mechanical",
            "fast",
            "encoder",
            "speed_aware",
            "bearings",
            "motors",
            "own_overloads",
            "joins",
        ),
    ),
    (
        "The drive",
        (
            "rated",
            "heavy",
            "overload",
            "heavy_overload",
            "overload_time",
            "period",
            "duty",
            "control",
            "curve",
            "boost",
            "base",
            "output_most",
            "carrier",
            "carrier_rated",
            "carrier_points",
            "ambient_rated",
            "loss",
            "loss_points",
            "reserve",
        ),
    ),
    (
        "Its line",
        (
            "phases",
            "single_phase",
            "front_end",
            "choke",
            "choke_size",
            "capacity",
            "discharge",
            "coupling_fault",
            "coupling_load",
            "others",
            "capacitors",
        ),
    ),
    ("Its lead", ("lead", "lead_kind", "rise", "filter", "contactor", "emc")),
    (
        "Ramps, stops, outages",
        (
            "rounding",
            "stop_mode",
            "power_back",
            "catches",
            "outage",
            "kinetic",
            "control_held",
            "windmills",
            "reference_lost",
        ),
    ),
    ("The year", ("now", "cost")),
    ("Autotune", ("coupled", "tuned_r", "tuned_leak", "tuned_idle", "tuned_rotor", "tuned_at")),
)


def _answer(plan: Plan) -> tuple[Piece, ...]:
    return drive_answer(plan.of(DRIVE), plan.stage("drive"))


def _headline(plan: Plan) -> Verdict:
    return drive_verdict(plan.of(DRIVE), plan.stage("drive"), plan.verdict)


def _groups(hand: InHand, driven: Driven | None) -> list[tuple[str, list[str], bool]]:
    """The fields in their groups; open where one cannot be read, or where the drive's rating is what is asked next."""
    unrated = driven is not None and driven.rating.plate_a is None
    found = []
    for name, keys in GROUPS:
        paths = [f"drive.{key}" for key in keys]
        wrong = any(hand.fields[path].error or hand.fields[path].conflict for path in paths if path in hand.fields)
        found.append((name, paths, wrong or (unrated and "rated" in keys)))
    return found


_OF_A_BRIDGE: Final = tuple(f"drive.{key}" for key in ("coupling_fault", "coupling_load", "others", "capacitors"))


def _context(hand: InHand) -> dict[str, Any]:
    found = hand.plan.of(DRIVE)
    driven = found.driven if found else None
    view = str(request.values.get("view", ""))
    view = view if view in dict(VIEWS) else VIEWS[0][0]
    return {
        "driven": driven,
        "beside": gates_beside(found, hand.plan.stage("drive")) if found else (),
        "bridge": found.bridge if found else None,
        "bridge_fields": _OF_A_BRIDGE,
        "unsaid_caution": BRIDGE_CAUTION if hand.planned.circuit.plate.family is Family.DC else drive_caution(None),
        "drive_groups": _groups(hand, driven),
        "drive_chart": torque_chart(driven) if driven else None,
        "views": VIEWS,
        "view": view,
        "drive_view": chart_of(driven, view) if driven else None,
        "parameter_groups": groups(driven.parameters) if driven else {},
        "cited": lambda source: cite(source, hand.plan.rules.value),
    }


PAGE = Page(key="drive", asks=("drive", "start.drive_ramp", "stop.drive_ramp", "load.static", "load.shutoff"),
            context=_context, answer=_answer, headline=_headline,
            files={"parameters.csv": as_csv, "parameters.json": as_json})  # fmt: skip
