"""Restart after an outage: a timed sequence of a job's machines that keeps every dip within its limit."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from operator import attrgetter

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.grade import Gate, Verdict, at_most, worst_of
from vinegate.core.machine.circuit import ComplexArray
from vinegate.core.numbers import write
from vinegate.core.plan import Plan
from vinegate.core.plate.rated import USUAL_RUNNING
from vinegate.core.plate.stage import PLATE
from vinegate.core.records import dataclass
from vinegate.core.start.trace import Outcome
from vinegate.core.start.ways import way_of
from vinegate.core.supply.stage import SUPPLY

STEP_S = 0.05
GRID_S = 0.5
_SETTLE_S = 1.0
_APART_S = 1.0
_FINER = 5
_FIRST_S = 2.0
_LOOKED_AT_S = 600.0
_MOST_FALL = 0.95


@dataclass(frozen=True, slots=True, kw_only=True)
class Starter:
    """One machine as the restart sees it: its admittance at the main board times the source's impedance, against time.

    With the loading `w` of all machines added, the board keeps `1/|1 + Σw|` of its volts. Every `STEP_S` seconds from
    the moment it closes; `running` afterwards. `wanted_s` is a moment that a person gave. `boards` are those that stand
    between the main board and the machine: one that starts behind the same is judged alone there. `least` and `most`
    are what its loading may be of that, by the bands of what is estimated or assumed.
    """

    tag: str
    method: str
    loading: tuple[complex, ...]
    running: complex
    peak_a: float
    wanted_s: float | None
    boards: frozenset[str] = frozenset()
    least: float = 1.0
    most: float = 1.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Slot:
    """A machine's place in the sequence. `moved`: a person put it there; `dip_pct`: the deepest while it starts;
    `gate`: that against the limit, where there is one, at both ends of what is estimated; `beside`: what starts
    meanwhile behind the same board, whose own dip then is not known.
    """

    tag: str
    method: str
    at_s: float
    ends_s: float
    peak_a: float
    dip_pct: float
    moved: bool
    gate: Gate | None
    beside: tuple[str, ...] = ()

    @property
    def verdict(self) -> Verdict:
        return worst_of([self.gate.verdict] if self.gate is not None else [])


@dataclass(frozen=True, slots=True, kw_only=True)
class Restart:
    """The restart: slots in time, the main board's volts on the way, and what stands aside with its reason."""

    slots: tuple[Slot, ...]
    time_s: tuple[float, ...]
    volts_pct: tuple[float, ...]
    limit_pct: float | None
    all_at_once_pct: float
    left_out: tuple[tuple[str, str], ...]

    @property
    def ends_s(self) -> float:
        return max((slot.ends_s for slot in self.slots), default=0.0)

    @property
    def verdict(self) -> Verdict:
        return worst_of(slot.verdict for slot in self.slots)

    def those(self, *verdicts: Verdict) -> tuple[Slot, ...]:
        """The slots that stand so."""
        return tuple(slot for slot in self.slots if slot.verdict in verdicts)


@dataclass(frozen=True, slots=True, kw_only=True)
class Profile:
    """A start as it is kept with its circuit: main-board amperes and share of volts against time, in a few points.

    `dips` are its least and its deepest fall over that, by the bands of what is estimated or assumed.
    """

    method: str
    time_s: tuple[float, ...]
    line_a: tuple[float, ...]
    volts_pu: tuple[float, ...]
    rated_a: float
    dips: tuple[float, float] = (1.0, 1.0)


def profile_of(plan: Plan) -> Profile | str:
    """The start of the way in use; a sentence where it cannot be part of a restart."""
    found = plan.comparison
    if found is None:
        return "its start cannot be simulated yet"
    row = found.row(found.chosen)
    if row.strip is None or row.outcome is not Outcome.REACHES or row.time_s is None:
        return f"{row.name} does not bring it to speed"
    strip, ratio = row.strip, found.volts_ratio
    plated = None if way_of(row.method).converts else plan.of(PLATE)
    current = plated.rated.current if plated else None
    rated = min(current.value if current else strip.line_a[-1], max(strip.line_a))
    return Profile(
        method=row.name,
        time_s=strip.time_s,
        line_a=tuple(round(amps * ratio, 2) for amps in strip.line_a),
        volts_pu=tuple(round(volts / strip.main_pu_before, 6) for volts in strip.main_pu),
        rated_a=round(rated * ratio, 2),
        dips=found.dips,
    )


def starter_of(
    tag: str, profile: Profile, source: Source, wanted_s: float | None, boards: Iterable[str] = ()
) -> Starter:
    """A kept start as the restart uses it, on this source."""
    steps = max(int(np.ceil(profile.time_s[-1] / STEP_S)), 1)
    times = np.linspace(0, steps * STEP_S, steps * _FINER, endpoint=False)
    amps = np.interp(times, profile.time_s, profile.line_a)
    volts = np.interp(times, profile.time_s, profile.volts_pu)
    return Starter(
        tag=tag,
        method=profile.method,
        loading=tuple(_highest(loading_of(abs(source.per_ampere) * amps, volts)).tolist()),
        running=source.per_ampere * profile.rated_a * USUAL_RUNNING,
        peak_a=max(profile.line_a),
        wanted_s=wanted_s,
        boards=frozenset(boards),
        least=_times(profile, profile.dips[0]),
        most=_times(profile, profile.dips[1]),
    )


def _times(profile: Profile, deeper: float) -> float:
    """The loading of a fall so many times as deep, over that of its own: `w = d/(1 − d)` where both are in phase."""
    fall = 1 - min(profile.volts_pu)
    if fall <= 0:
        return 1.0
    other = min(fall * deeper, _MOST_FALL)
    return other / (1 - other) * (1 - fall) / fall


def _highest(loading: ComplexArray) -> ComplexArray:
    """Of each step the loading that pulls lowest: a change-over is shorter than a step."""
    return _lowest(loading, _FINER)


def loading_of(drop: Array, volts: Array) -> ComplexArray:
    """`w = z·y` from the simulated current and volts: `|w| = |z|·I/V`, and its angle from `|1 + w| = 1/V`.

    So one machine alone brings back exactly the dip of its own simulation.
    """
    size = drop / volts
    cosine = np.where(size > 1e-12, (1 / volts**2 - 1 - size**2) / np.maximum(2 * size, 1e-12), 1.0)
    angle = np.arccos(np.clip(cosine, -1, 1))
    return np.asarray(size * np.exp(1j * angle))


@dataclass(frozen=True, slots=True)
class Source:
    """What the main board hangs on: `per_ampere` is the per-unit drop of an ampere, `√3·Z_s/U`; between two lines
    `2·Z_s/U`.
    """

    per_ampere: complex

    @classmethod
    def of(cls, plan: Plan) -> Source | None:
        """The source as a circuit hangs on it; None while its plan does not know it, or what starts."""
        supplied, found = plan.of(SUPPLY), plan.comparison
        if supplied is None or supplied.source is None or found is None:
            return None
        source = supplied.source
        return cls(complex(source.r.value, source.x.value) / 1000 * found.loop / source.volts.value)


Placed = Sequence[tuple[Starter, int]]


def restart_sequence(
    starters: Sequence[Starter], *, dip_limit_pu: float | None, left_out: Sequence[tuple[str, str]] = ()
) -> Restart:
    """Largest last, a second apart, each as early as the dip allows, and none while another starts behind the same
    further board. A moment that a person gave stands. What is estimated is taken at its most.

    Loadings add, `V = 1/|1 + Σw|`, earlier machines running. Each start keeps the time it has alone: in a deeper dip it
    takes longer. (Search: first fit in order of peak current.)
    """
    begun, size = _begun(starters, dip_limit_pu)
    placed = [(one, begun[one.tag]) for one in starters]
    as_taken, *ends = (_total(placed, size, times) for times in (_as_taken, attrgetter("least"), attrgetter("most")))
    slots = sorted((_slot(as_taken, ends, one, begin, dip_limit_pu, placed) for one, begin in placed),
                   key=lambda s: (s.at_s, s.tag))  # fmt: skip
    shown = int(min(max((slot.ends_s for slot in slots), default=1.0) * 1.06 + 1, size * STEP_S) / STEP_S)
    stride = max(1, shown // 600)
    return Restart(
        slots=tuple(slots),
        time_s=tuple(np.round(np.arange(0, shown, stride) * STEP_S, 2).tolist()),
        volts_pct=tuple(np.round(100 / np.abs(1 + _lowest(as_taken[:shown], stride)), 3).tolist()),
        limit_pct=None if dip_limit_pu is None else 100 * dip_limit_pu,
        all_at_once_pct=_dip_pct(np.array([sum((one.loading[0] for one in starters), start=0j)])),
        left_out=tuple(left_out),
    )


def _as_taken(_: Starter) -> float:
    return 1.0


def _begun(starters: Sequence[Starter], dip_limit_pu: float | None) -> tuple[dict[str, int], int]:
    """The step at which each closes, and how many steps that takes: those moved by hand where they were put, the others
    where all surely fits.
    """
    total, placed, ends = np.zeros(round(_LOOKED_AT_S / STEP_S), dtype=complex), list[tuple[Starter, int]](), 0

    def put(one: Starter, begin: int) -> None:
        nonlocal total, ends
        total = _as_long_as(total, begin + len(one.loading))
        placed.append((one, begin))
        _add(total, one, begin, one.most)
        ends = max(ends, begin + len(one.loading))

    order = sorted(starters, key=lambda one: (one.peak_a, one.tag))
    for one in order:
        if one.wanted_s is not None:
            put(one, round(one.wanted_s / STEP_S))
    earliest = int(_FIRST_S / STEP_S)
    for one in order:
        if one.wanted_s is None:
            needed = max(ends, earliest) + int(_SETTLE_S / STEP_S) + len(one.loading) + 1
            total = _as_long_as(total, needed)
            begin = _first_fit(total[:needed], one, earliest, dip_limit_pu, _starts(placed, one))
            put(one, begin)
            earliest = begin + int(_APART_S / STEP_S)
    return {one.tag: begin for one, begin in placed}, total.size


def _as_long_as(total: ComplexArray, steps: int) -> ComplexArray:
    """With room for so many steps and some more: what runs at its end goes on running."""
    if steps < total.size:
        return total
    return np.concatenate([total, np.repeat(total[-1:], 2 * steps - total.size)])


def _lowest(total: ComplexArray, stride: int) -> ComplexArray:
    """Of each stretch the loading that pulls lowest, so that no short dip is drawn away."""
    count = -(-total.size // stride)
    padded = np.concatenate([total, np.repeat(total[-1:], count * stride - total.size)]).reshape(count, stride)
    return np.asarray(padded[np.arange(count), np.abs(1 + padded).argmax(axis=1)])


def _dip_pct(loading: ComplexArray) -> float:
    return 100 * float((1 - 1 / np.abs(1 + loading)).max()) if loading.size else 0.0


def _add(total: ComplexArray, one: Starter, begin: int, times: float) -> None:
    """One more machine's loading, so many times what it is taken as."""
    room = max(min(len(one.loading), total.size - begin), 0)
    total[begin : begin + room] += times * np.array(one.loading[:room])
    total[begin + room :] += times * one.running


def _total(placed: Placed, size: int, times: Callable[[Starter], float]) -> ComplexArray:
    """What all of them load the board with, against time: their starts, and what runs behind each, added up."""
    starts, runs = np.zeros(size, dtype=complex), np.zeros(size + 1, dtype=complex)
    for one, begin in placed:
        end = begin + len(one.loading)
        starts[begin:end] += times(one) * np.array(one.loading)
        runs[end] += times(one) * one.running
    return np.asarray(starts + np.cumsum(runs[:size]))


def _starts(placed: Placed, one: Starter) -> list[tuple[str, int, int]]:
    """What else starts behind a board that this one stands behind too: its tag, from where to where."""
    if not one.boards:
        return []
    return [(other.tag, begin, begin + len(other.loading)) for other, begin in placed
            if other is not one and other.boards & one.boards]  # fmt: skip


def _first_fit(
    total: ComplexArray, one: Starter, earliest: int, limit_pu: float | None, taken: Sequence[tuple[str, int, int]]
) -> int:
    """First moment of the grid from which the board stays in its limit; after all others where none does."""
    grid = int(GRID_S / STEP_S)
    begins = np.arange(-(-earliest // grid) * grid, total.size - len(one.loading), grid)
    for _, begin, end in taken:
        begins = begins[(begins >= end) | (begins + len(one.loading) <= begin)]
    if limit_pu is not None:
        found = _fitting(total, one, begins, 1 / max(1 - limit_pu, 1e-6))
        if found is not None:
            return found
    busy = np.flatnonzero(np.abs(np.diff(total)) > 1e-12)
    return max(earliest, int(busy[-1]) + 1 + int(_SETTLE_S / STEP_S)) if busy.size else earliest


_AT_ONCE = 16


def _fitting(total: ComplexArray, one: Starter, begins: np.typing.NDArray[np.int_], most: float) -> int | None:
    """The first of these moments with which no loading exceeds `most`, of `|1 + Σw|`; in windows, a few at a time.

    Behind a start the machine only runs: whether that is borne to the end is the same for all moments. Of the others
    most fail where the start itself pulls lowest, which is tried for all at once.
    """
    most *= 1 + 1e-12
    own = one.most * np.array(one.loading)
    runs = np.abs(1 + total + one.most * one.running) <= most
    borne_from = np.flatnonzero(~runs)[-1] + 1 if not runs.all() else 0
    begins = begins[begins + own.size >= borne_from]
    for place in {int(np.abs(own).argmax()), 0, own.size - 1}:
        begins = begins[np.abs(1 + total[begins + place] + own[place]) <= most]
    if not begins.size:
        return None
    windows = np.lib.stride_tricks.sliding_window_view(total, own.size)
    for first in range(0, begins.size, _AT_ONCE):
        some = begins[first : first + _AT_ONCE]
        fits = (np.abs(1 + windows[some] + own) <= most).all(axis=1)
        if fits.any():
            return int(some[fits.argmax()])
    return None


def _slot(
    total: ComplexArray, bounds: Iterable[ComplexArray], one: Starter, begin: int, limit_pu: float | None,
    placed: Placed,
) -> Slot:  # fmt: skip
    """`bounds` are the totals at the least and the most of all that is estimated."""
    ends = min(begin + len(one.loading), total.size)
    dip, least, most = (_dip_pct(each[begin:ends]) for each in (total, *bounds))
    met = (tag for tag, from_, to in _starts(placed, one) if from_ < begin + len(one.loading) and begin < to)
    return Slot(
        tag=one.tag,
        method=one.method,
        at_s=round(begin * STEP_S, 2),
        ends_s=round(ends * STEP_S, 2),
        peak_a=one.peak_a,
        dip_pct=dip,
        moved=one.wanted_s is not None,
        gate=None if limit_pu is None else _gate(one.tag, dip, 100 * limit_pu, (least, most)),
        beside=tuple(sorted(met)),
    )


def _gate(tag: str, dip: float, limit: float, band: tuple[float, float]) -> Gate:
    text = f"{tag}: dip {dip:.1f} % of {write(limit, 3)} %"
    about = f", {band[0]:.1f} to {band[1]:.1f} % by what is estimated or assumed of it and of what runs beside it."
    return at_most(
        "restart.dip", "Dip at the main board", dip, limit, unit="%", band=band, source="the job's limit",
        sentence=text + (about if band[1] > band[0] else "."), remedy="Start it later, or by a way that draws less.",
    )  # fmt: skip
