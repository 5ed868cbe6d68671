"""One circuit's start on one source, in hand: a way is run and judged when it is asked for, and once."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Mapping
from dataclasses import field
from typing import Final

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.drive.envelope import Supplied
from vinegate.core.facts import Circuit, Job
from vinegate.core.grade import Answer, Gate, worst_of
from vinegate.core.load.stage import Asked as LoadAsked
from vinegate.core.machine.curves import run_at
from vinegate.core.machine.describe import Machine
from vinegate.core.machine.slip_rings import first_torque
from vinegate.core.machine.stall import Stalls
from vinegate.core.machine.tabulated import Tabulated
from vinegate.core.plate.kind import START_CAPACITOR, THREE_PHASE, Family, volt_ampere_factor
from vinegate.core.plate.rated import Rated
from vinegate.core.records import dataclass, replace
from vinegate.core.rectifier import Armature
from vinegate.core.rules import RuleSet, RunImpedance, Words
from vinegate.core.start import ways
from vinegate.core.start.asked import UNLOADED, Asked, Sensitive
from vinegate.core.start.compare import MethodRow, meets_needs, not_possible, row_of
from vinegate.core.start.eligible import eligible, offered
from vinegate.core.start.first_moment import Moment
from vinegate.core.start.judge import judge
from vinegate.core.start.judge_flicker import MOST_PCT
from vinegate.core.start.laden import Losing
from vinegate.core.start.plant import Plant, before_pu, build
from vinegate.core.start.relay import RelayHeat
from vinegate.core.start.simulate import Runs, simulate
from vinegate.core.start.trace import Outcome
from vinegate.core.start.unrun import may_be_left
from vinegate.core.supply.network import Network
from vinegate.core.supply.tree import Feed, board_name
from vinegate.core.tables import load
from vinegate.core.turning import Taken

_SWITCHING = "automatic"
_DEFAULT_MARGIN_PU = 0.10
_SOFT_HEAT_SHARE = 0.8
_UNKNOWN_STALL_S = 10.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Known:
    """What a simulation needs, all of it known."""

    machine: Machine
    load: LoadAsked
    feed: Feed
    rated: Rated
    run: RunImpedance | None
    frequency_hz: float
    neutral: bool = False
    drive: Supplied | None = None
    motors: int = 1
    """Alike, where one drive feeds them."""
    fed_by_one: bool = False
    """Whether that drive takes single-phase input."""
    armature: Armature | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class MeanLoss:
    """In per cent of the rated loss: while it carries its load, what goes with the square of that, what one start an
    hour adds.
    """

    carrying_pct: float
    squared_pct: float
    start_pct: float

    def running_pct(self, times: float) -> float:
        """While it carries so many times its load."""
        return self.carrying_pct + self.squared_pct * (times**2 - 1)


@dataclass(frozen=True, slots=True)
class Lack:
    """What a way does not give beside starting here, and how it stands with the circuit where that is judged."""

    text: str
    found: Answer | None = None


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class Trial:
    """What every way is run and judged with, and those that were. It holds no facts that are being watched."""

    plant: Plant
    network: Network
    before: Array
    possible: Mapping[str, Answer]
    asked: Asked
    runs: Runs
    terminals: Callable[[float, int], Gate] | None
    words: Words
    stall_s: float | None
    loss_share: float
    known: Known
    lacks: Mapping[str, Lack]
    """By ways: what is asked beside starting here that they do not give."""
    rows: dict[str, MethodRow] = field(default_factory=dict)

    def row(self, method: str) -> MethodRow:
        """A way, judged; or why it is not possible. Raises KeyError."""
        if method not in self.rows:
            self.rows[method] = self._judged(method)
        return self.rows[method]

    def mean_loss(self, method: str) -> MeanLoss | None:
        """What a way that gets to speed adds to the mean loss; None where it does not, or was not simulated."""
        run = self.runs[method] if method in self.rows and method in self.runs else None
        if run is None or run.course.outcome is not Outcome.REACHES:
            return None
        rated, power = self.asked.rated_loss_w, self.asked.load.power
        most, watts = power.high / power.value if power.value else 1.0, self.asked.running_w
        grows = (watts(most) - watts(1.0)) / (most**2 - 1) if most > 1 else 0.0
        return MeanLoss(
            carrying_pct=100 * watts(1.0) / rated, squared_pct=100 * grows / rated,
            start_pct=100 * run.course.heat_j / 3600 / rated,
        )  # fmt: skip

    def in_order(self) -> Iterator[MethodRow]:
        """Ways from the least dear on, each as it is asked for."""
        for way in sorted(map(ways.way_of, self.possible), key=lambda way: way.order):
            yield self.row(way.key)

    def _judged(self, method: str) -> MethodRow:
        may = self.possible[method]
        if method not in self.runs or not may.verdict.usable:
            return not_possible(method, may, self.words)
        run = self.runs[method]
        drawn = run.count * float(run.course.all("motor_a").max())
        at_motor = self.terminals(drawn, run.count) if self.terminals else None
        relay = RelayHeat(self.plant, run.course, in_delta=self.asked.relay_in_delta)
        gates = judge(self.plant, run, self.asked, self.before, relay, at_motor)
        row = row_of(self.plant, run, gates, may, self.before, self.asked, relay, self.words)
        lack = self.lacks.get(method)
        if lack is None:
            return row
        verdict = row.verdict if lack.found is None else worst_of((row.verdict, lack.found.verdict))
        return replace(row, lacks=lack.text, verdict=verdict)


def trial_of(
    job: Job, circuit: Circuit, rules: RuleSet, known: Known,
    *, moment: Moment, wye_delta: Gate, terminals: Callable[[float, int], Gate] | None, stalls: Stalls,
    inertia_limit: float | None, inertia_source: str, lacks: Mapping[str, Lack],
) -> Trial:  # fmt: skip
    """Everything that the ways have in common. Full voltage is run; no other is yet. `lacks` is what of them lacks what
    other stages ask.
    """
    network = known.feed.network
    assert network is not None
    plant = plant_of(known, network, circuit)
    possible = {way.key: eligible(way, circuit, job, wye_delta) for way in offered(circuit)}
    loss_share, losing = _losses(known)
    asked = _asked(
        job, circuit, known, network, rated_loss_w=loss_share * (circuit.plate.power_w or 0.0),
        losing=losing, stalls=stalls, inertia_limit=inertia_limit, inertia_source=inertia_source,
        moment=moment, rules=rules,
    )  # fmt: skip
    return Trial(
        plant=plant,
        network=network,
        before=before_pu(plant),
        possible=possible,
        asked=asked,
        runs=runs_of(plant, circuit, job, known, loss_share, stalls.hot_s, possible),
        terminals=terminals,
        words=rules.words,
        stall_s=stalls.hot_s,
        loss_share=loss_share,
        known=known,
        lacks={key: Lack(text) for key in possible if (text := meets_needs(key, circuit))} | dict(lacks),
    )


def runs_of(
    plant: Plant, circuit: Circuit, job: Job, known: Known, loss_share: float, stall_s: float | None,
    possible: Mapping[str, Answer], *, brief: bool = False,
) -> Runs:  # fmt: skip
    """The ways that this machine may be started by, on one source."""
    promise = known.machine.promise
    return simulate(
        plant,
        circuit.start,
        dip_limit_pu=_falls_at_most(job, circuit),
        margin_pu=_margin(job),
        most_i2t_s=_SOFT_HEAT_SHARE * (stall_s or _UNKNOWN_STALL_S),
        loss_share=loss_share,
        three_phase=circuit.plate.family in THREE_PHASE,
        weakest=promise.weakest if promise is not None else 1.0,
        brief=brief,
        possible=[method for method, may in possible.items() if may.verdict.usable],
    )


def _falls_at_most(job: Job, circuit: Circuit) -> float | None:
    """What a start whose setting is sought may dip: the job's limit, and d_max where flicker is limited; a share."""
    said, switching = [job.limits.dip_pu], circuit.start.switching or _SWITCHING
    if job.limits.flicker is not None and not job.on_standby and circuit.start.starts_per_hour:
        said.append(MOST_PCT[switching] / 100)
    return min((one for one in said if one is not None), default=None)


def plant_of(known: Known, network: Network, circuit: Circuit) -> Plant:
    rated, run = known.rated, known.run
    assert rated.current is not None
    ohms = complex(run.r.value, run.x.value) / 1000 if run else 0j
    if known.neutral:  # and back through the neutrals of run and feeders
        back = known.feed.run
        ohms = 2 * ohms + (complex(back.r.value, back.x.value) / 1000 if back else 0j)
    return build(
        network=network,
        at=network.index(known.feed.board),
        model=known.machine.circuit,
        inside=known.machine.inside,
        asked=known.load,
        plate_v=known.machine.volts_v,
        frequency_hz=known.frequency_hz,
        rated_current_a=rated.current.value,
        rated_torque_nm=known.machine.rated_torque_nm,
        run_ohm=ohms,
        phase_factor=_phase_factor(known, circuit),
        locked_power_factor=circuit.start.locked_rotor_power_factor,
        promise=known.machine.promise,
        neutral=known.neutral,
        drive=known.drive,
        motors=known.motors,
        fed_by_one=known.fed_by_one,
        first_torque_pu=first_torque(circuit) if circuit.plate.family is Family.WOUND else 0.0,
        armature=known.armature,
    )


def _phase_factor(known: Known, circuit: Circuit) -> float:
    """Of what stands on the lines: the machine, or a direct-current one's bridge."""
    if known.armature is not None:
        return 3**0.5 if known.armature.bridge.three else 1.0
    return volt_ampere_factor(circuit.plate.kind)


def _margin(job: Job) -> float:
    return _DEFAULT_MARGIN_PU if job.limits.torque_pu is None else job.limits.torque_pu


def _losses(known: Known) -> tuple[float, Losing]:
    """Rated loss over output, and what is lost while it carries its load."""
    model, volts = known.machine.circuit, known.machine.volts_v
    speed = known.rated.speed.value if known.rated.speed else 0.0
    top = model.synchronous_rad_s() * 30 / math.pi
    slip = known.machine.rated_slip(max(1 - speed / top, 1e-3), model)
    losing = Losing(model, volts, slip, known.load.torque_nm / known.machine.rated_torque_nm)
    if isinstance(model, Tabulated):
        return model.rated_loss_w / max(known.rated.power_w or 0.0, 1.0), losing
    run = run_at(model, np.array([slip]), volts_v=volts)
    output = float(run.shaft_w[0])
    return float(run.input_w[0] - output) / max(output, 1.0), losing


def _asked(
    job: Job, circuit: Circuit, known: Known, network: Network,
    *, rated_loss_w: float, losing: Losing, stalls: Stalls, inertia_limit: float | None, inertia_source: str,
    moment: Moment, rules: RuleSet,
) -> Asked:  # fmt: skip
    limits = job.limits
    amps = (known.motors if circuit.from_drive else 1) * (known.rated.current.value if known.rated.current else 0.0)
    return Asked(
        dip_pu=limits.dip_pu,
        dip_source=limits.dip_source or "set for the job",
        hold=_hold(limits.contactor_pu),
        start_va=limits.start_power_va,
        start_a=limits.start_current_a,
        flicker=limits.flicker,
        margin_pu=_margin(job),
        stall=stalls.hot, cold=stalls.cold,
        load_inertia_limit=inertia_limit, inertia_source=inertia_source,
        inertia_by_maker=circuit.machine.load_inertia_kgm2 is not None,
        inertia_by_standard=circuit.plate.family is Family.CAGE,
        load=known.load,
        promise=known.machine.promise,
        starts_per_hour=circuit.start.starts_per_hour,
        starts_allowed=circuit.machine.starts_per_hour,
        start_capacitor=circuit.plate.kind in START_CAPACITOR,
        rated_loss_w=max(rated_loss_w, 1.0),
        losing=losing,
        trip_a=circuit.start.instantaneous_trip_a,
        sensitive=_sensitive(job, network),
        recovery_s=job.standby.recovery_s if job.on_standby else None,
        sag=moment.sag,
        run_leaves=may_be_left(moment.sag, limits.terminal_pu) if known.run is None else None,
        relay_in_delta=circuit.protection.overload_place == "delta",
        limit_assumed=known.drive.limit_assumed if known.drive else circuit.start.drive_limit is None,
        switching=circuit.start.switching or _SWITCHING,
        private=job.on_standby,
        helps=_helps(circuit, rules),
        flicker_standard=rules.flicker_standard(amps),
        large_change_s=rules.large_change_s(amps),
    )  # fmt: skip


_STRONG: Final = ("C", "D", "H")
"""What letters of designs with much starting torque begin with (MG 1 12.38.2, 12.38.3; IEC 60034-12:2016)."""
_UNLOADED_OR_NEVER: Final = ("hoist", "unloaded", "pump-closed", "fan-closed")
"""Loads that hang on the shaft, or start without what they carry already."""


def _helps(circuit: Circuit, rules: RuleSet) -> tuple[str, ...]:
    unloaded = () if circuit.load.kind in _UNLOADED_OR_NEVER else (UNLOADED,)
    family, letter = circuit.plate.family, circuit.plate.design_letter
    if family is Family.WOUND:
        return ("more steps of its resistor, or a higher first torque", *unloaded, "a larger motor")
    if family is Family.SINGLE:
        harder = "a kind that breaks away harder, with a start capacitor, or a larger motor"
        return (*unloaded, "a larger motor" if circuit.plate.kind in START_CAPACITOR else harder)
    if family is Family.DC:
        return (*unloaded, "a larger motor")
    strong = letter is not None and letter.startswith(_STRONG)
    stronger = "a larger motor" if strong else f"a motor of design {rules.practice.strong_design}"
    return (*unloaded, stronger, "then a drive")


def _sensitive(job: Job, network: Network) -> tuple[Sensitive, ...]:
    found = []
    for index, bus in enumerate(network.buses):
        board = job.main_board if bus.key == "main" else job.board(bus.key)
        if board is None or board.sensitive in (None, "none"):
            continue
        own = board.sensitive == "own"
        least = board.sensitive_least_pu if own else None
        found.append(Sensitive(index, board_name(job, bus.key), least, own=own))
    return tuple(found)


def _hold(given_pu: float | None) -> Taken:
    """Down to what contactors hold: all that is promised, unless their maker's figure is given."""
    promised = load("preset").find(key="contactor_hold")
    assert promised is not None
    value = float(promised["value"]) if given_pu is None else 100 * given_pu
    return Taken(
        path="limits.contactor",
        label="volts down to which contactors hold",
        unit="%",
        value=value,
        low=value if given_pu is not None else float(promised["low"]),
        high=value,
        how="promised" if given_pu is None else "",
        given=given_pu is not None,
        possible=(2.0, 100.0),
    )
