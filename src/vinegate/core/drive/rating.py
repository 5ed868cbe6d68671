"""The drive by amperes: its duty class, its overload, and what height, heat, carrier and input leave of its rating."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from typing import Final

from vinegate.core.assumed import assume, preset
from vinegate.core.drive.made import CarrierPoints
from vinegate.core.drive.need import Need
from vinegate.core.grade import Gate, Verdict, settled_by
from vinegate.core.numbers import write
from vinegate.core.records import dataclass
from vinegate.core.sheet import Sheet
from vinegate.core.turning import Taken, Turns
from vinegate.core.wording import inside
from vinegate.core.working import Figure, Provenance

_SEA_M: Final = 1000.0
_PER_METRE: Final = 1e-4
_PER_KELVIN: Final = (0.01, 0.015, 0.025)
_MOST_OVER_K: Final = 10.0
_BRIDGE_ON_ONE: Final = (0.35, 0.5, 0.6)


@dataclass(frozen=True, slots=True, kw_only=True)
class Unsaid:
    """What nobody has said of the drive: its field, the least share that is left, and what may be said of it.

    `options` are texts for the field and the share that each leaves, those first that one would rather have.
    """

    path: str
    label: str
    way: str
    least: float
    options: tuple[tuple[str, float], ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Rating:
    """Amperes for ever and for a short time of the whole drive, derated; None while its plate is not known.

    `left` is the share that is left of the plate's, with its band. `heavy` the duty class, `overload` its times.
    """

    heavy: bool
    plate_a: float | None
    rated_a: float | None
    overload: float
    overload_s: float
    period_s: float
    left: Taken
    hopeless: str = ""
    """Why it may not be used here at all, whatever its size."""
    unsaid: tuple[Unsaid, ...] = ()

    @property
    def limit_a(self) -> float | None:
        return self.rated_a * self.overload if self.rated_a is not None else None

    @property
    def rest_pu(self) -> float:
        """Current between overloads that keeps the square over the period at one.

        >>> made = Rating(heavy=True, plate_a=None, rated_a=None, overload=1.5, overload_s=60, period_s=600,
        ...               left=Taken(value=1, low=1, high=1))
        >>> round(made.rest_pu, 3)
        0.928
        """
        rest = self.period_s - self.overload_s
        return math.sqrt(max(self.period_s - self.overload**2 * self.overload_s, 0.0) / rest) if rest > 0 else 0.0


def rating_of(need: Need) -> Rating:
    """Put it on the sheet: the class, its overload, each derating and what they leave."""
    sheet, facts = need.sheet, need.facts
    heavy = (facts.duty or need.preset["duty"]) == "heavy"
    plate_a = facts.heavy_a if heavy else facts.rated_a
    word = "heavy" if heavy else "normal"
    overload = _either(sheet, facts.heavy_overload_pu if heavy else facts.overload_pu,
                       "drive_overload_heavy" if heavy else "drive_overload_normal",
                       "overload", f"Overload of its {word} duty", "o")  # fmt: skip
    seconds = _either(sheet, facts.overload_time_s, "drive_overload_time", "overload_s", "Overload for", "t_o")
    period = _either(sheet, facts.period_s, "drive_overload_period", "period_s", "Overload, once in", "t_p")
    if plate_a is None:
        path = "drive.heavy" if heavy else "drive.rated"
        sheet.needs([(path, f"the drive's rated amperes, {word} duty")], "whether the drive is large enough")
    left, left_line, hopeless = _left(need)
    rated = None
    if plate_a is not None:
        plate = sheet.given("rated", f"Rated, {word} duty", "I_D", plate_a, "A", provenance=Provenance.STAMPED,
                            source="the drive's plate")  # fmt: skip
        rated = sheet.work(
            "rated_left",
            "Left of it here",
            "I_Dx",
            plate.value * left.value,
            "A",
            formula="I_D·k_D/100",
            inputs=(plate, left_line),
            source="deratings multiplied",
        )
    return Rating(
        heavy=heavy,
        plate_a=plate_a,
        rated_a=rated.value if rated else None,
        overload=overload.value,
        overload_s=seconds.value,
        period_s=period.value,
        left=left,
        hopeless=hopeless,
        unsaid=(*_carrier_to_say(need, plate_a), *_air_to_say(need)),
    )


def limit_a(need: Need, rating: Rating) -> float:
    """Amperes of one motor for a short time: the drive's overload, or the limit that is set on it."""
    most = rating.limit_a / need.motors if rating.limit_a else rating.overload * need.plate_a
    set_at = need.circuit.start.drive_limit
    return min(most, set_at * need.plate_a) if set_at and rating.limit_a else set_at * need.plate_a if set_at else most


def settled(gate: Gate, rating: Rating, room: Callable[[float], float]) -> Gate:
    """A check on its amperes, with what settles it of what nobody has said of the drive.

    `room` is how much there is with a share that is left of its plate's amperes.
    """
    if gate.verdict is not Verdict.CHECK or gate.turns is not None:
        return gate
    for one in rating.unsaid:
        text = next((text for text, share in one.options if room(rating.left.low / one.least * share) >= 0), "")
        if text:
            return settled_by(
                gate, Turns(path=one.path, label=one.label, passes=f"{text} or {one.way}", passes_as=text)
            )
    return gate


def _khz(hertz: float) -> str:
    return f"{write(hertz / 1000, 3)} kHz"


def _carrier_to_say(need: Need, plate_a: float | None) -> Iterator[Unsaid]:
    """Up to which carrier it is rated, or which it runs at, where its maker's amperes by carrier are known."""
    facts, points = need.facts, need.facts.carrier_points
    if points is not None and facts.carrier_hz is None and plate_a is not None:
        whole = facts.rated_a or points.most_a
        left = [(_khz(hertz), min(amps / whole, 1.0)) for hertz, amps in reversed(points.points)]
        yield Unsaid(
            path="drive.carrier", label="the drive's carrier", way="less", least=left[0][1], options=tuple(left)
        )
    if _is_unsaid(need) and facts.carrier_hz is not None:
        yield Unsaid(
            path="drive.carrier_rated", label="the carrier up to which the drive is rated", way="more",
            least=carrier_share(facts.carrier_hz / _RATED_AT_HZ[0]), options=((_khz(facts.carrier_hz), 1.0),),
        )  # fmt: skip


def _air_to_say(need: Need) -> Iterator[Unsaid]:
    """The air it is rated in, where it stands in warmer air than is usual."""
    over, hot = _over_k(need), area_of(need)[0]
    if need.facts.ambient_rated_c is None and hot is not None and 0 < over <= _MOST_OVER_K:
        yield Unsaid(path="drive.ambient_rated", label="the air in which the drive is rated", way="more",
                     least=1 - _PER_KELVIN[-1] * over, options=((f"{write(hot)} °C", 1.0),))  # fmt: skip


def _either(sheet: Sheet, value: float | None, assumed: str, key: str, name: str, symbol: str) -> Figure:
    if value is None:
        return assume(sheet, assumed, key, name, symbol)
    unit = "s" if key.endswith("_s") else ""
    return sheet.given(key, name, symbol, value, unit, source="the drive's plate", provenance=Provenance.STAMPED)


def _left(need: Need) -> tuple[Taken, Figure, str]:
    """Height, heat, carrier and a single-phase input, multiplied: least, usual and most; its line, and why nothing
    helps.
    """
    parts = [part for part in (_height(need), _heat(need), _carrier(need), _one_phase(need)) if part is not None]
    low, usual, high = (math.prod(ends) for ends in zip((1.0,) * 3, *(part.ends for part in parts), strict=True))
    figures = [part.figure for part in parts]
    guessed = any(figure.provenance in (Provenance.ESTIMATED, Provenance.ASSUMED) for figure in figures)
    source = "usual deratings; its maker's count" if guessed else "its maker" if parts else "nothing to take off"
    line = need.sheet.work(
        "left", "Left of its rating here", "k_D", 100 * usual, "%",
        formula="100" + "".join(f"·{figure.symbol}/100" for figure in figures) if figures else "100",
        inputs=figures,
        source=source,
        provenance=Provenance.ESTIMATED if guessed else Provenance.STATED,
    )  # fmt: skip
    hopeless = next((part.hopeless for part in parts if part.hopeless), "")
    label = f"what is {' and '.join(inside(figure.name) for figure in figures)}"
    left = Taken(
        label=label, value=usual, low=min(low, usual), high=max(high, usual), how="estimated" if guessed else ""
    )
    return left, line, hopeless


@dataclass(frozen=True, slots=True)
class _Part:
    """One derating: its line, the least and most that may be left, per cent, and why nothing helps."""

    figure: Figure
    low: float
    high: float
    hopeless: str = ""

    @property
    def ends(self) -> tuple[float, float, float]:
        """Least, usual and most, as shares."""
        return self.low / 100, self.figure.value / 100, self.high / 100


def area_of(need: Need) -> tuple[float | None, float]:
    """Warmest air and height of where the drive stands."""
    key = need.circuit.place.drive
    area = need.job.area(key) if key else None
    return (area.ambient_high_c if area else None), (area.altitude_m or 0.0) if area else 0.0


def _height(need: Need) -> _Part | None:
    height = area_of(need)[1]
    if height <= _SEA_M:
        return None
    share = 100 * (1 - (height - _SEA_M) * _PER_METRE)
    figure = need.sheet.given(
        "left_height",
        "Left by the height",
        "k_h",
        share,
        "%",
        provenance=Provenance.ESTIMATED,
        source="1 % for each 100 m above 1000 m, usual; above 2000 m its insulation too",
    )
    return _Part(figure, share, share)


def _over_k(need: Need) -> float:
    """Kelvin by which the air it stands in is warmer than what it is rated in; nought where it is not."""
    hot, rated = area_of(need)[0], need.facts.ambient_rated_c or preset("drive_ambient")
    return max(hot - rated, 0.0) if hot is not None else 0.0


def _heat(need: Need) -> _Part | None:
    hot, over = area_of(need)[0], _over_k(need)
    if not over:
        return None
    most, usual, least = (100 * (1 - per * min(over, _MOST_OVER_K)) for per in _PER_KELVIN)
    if need.facts.ambient_rated_c is None:
        most = 100.0  # it may be rated in warmer air than is usual
    hopeless = f"{hot:g} °C is more than {_MOST_OVER_K:g} K above what it is rated in." if over > _MOST_OVER_K else ""
    figure = need.sheet.given("left_heat", "Left by the heat", "k_t", usual, "%", provenance=Provenance.ESTIMATED,
                              source="1 to 2.5 % a kelvin up to 10 K over, usual")  # fmt: skip
    return _Part(figure, least, most, hopeless)


def carrier_share(times: float) -> float:
    """Output left at so many times the carrier it is rated for: `0.35·i + 0.25·i² + 0.40·i·f_c/f_c0 = 1`.

    >>> round(carrier_share(2), 2), round(carrier_share(4), 2), carrier_share(1)
    (0.75, 0.48, 1.0)
    """
    straight = 0.35 + 0.40 * times
    return min((-straight + math.sqrt(straight**2 + 4 * 0.25)) / (2 * 0.25), 1.0)


def _is_unsaid(need: Need) -> bool:
    """Whether a drive runs at a carrier of which nobody has said what it leaves."""
    facts = need.facts
    return facts.carrier_hz is not None and facts.carrier_rated_hz is None and facts.carrier_points is None


def _carrier(need: Need) -> _Part | None:
    facts = need.facts
    if facts.carrier_points is not None:
        return _carrier_points(need, facts.carrier_points)
    if facts.carrier_hz is not None and _is_unsaid(need):
        return _carrier_unsaid(need, facts.carrier_hz)
    if facts.carrier_hz is None or facts.carrier_rated_hz is None or facts.carrier_hz <= facts.carrier_rated_hz:
        return None
    share = 100 * carrier_share(facts.carrier_hz / facts.carrier_rated_hz)
    figure = need.sheet.given(
        "left_carrier",
        "Left by the carrier",
        "k_c",
        share,
        "%",
        provenance=Provenance.ESTIMATED,
        source="conduction 0.35·i + 0.25·i², switching 0.40·i with the carrier; its maker's points count",
    )
    return _Part(figure, 0.9 * share, min(1.1 * share, 100.0))


_RATED_AT_HZ: Final = (2000.0, 4000.0, 8000.0)
"""Carriers up to which drives are usually rated, least, usual and most; assumed, as makers' data differ so."""


def _carrier_unsaid(need: Need, carrier_hz: float) -> _Part | None:
    """What a carrier leaves where nobody has said up to which the drive is rated."""
    low, usual, high = (100 * carrier_share(carrier_hz / rated) for rated in _RATED_AT_HZ)
    if low >= 100:
        return None
    figure = need.sheet.given(
        "left_carrier", "Left by the carrier", "k_c", usual, "%", provenance=Provenance.ASSUMED,
        source="rated up to 4 kHz, as usual, 2 to 8 kHz by maker: its own is not said",
    )  # fmt: skip
    return _Part(figure, low, high)


def _carrier_points(need: Need, made: CarrierPoints) -> _Part | None:
    """By its maker's rows; the drive is one of them at its normal rating, so the share holds for either duty."""
    carrier, plate = need.facts.carrier_hz, need.facts.rated_a or made.most_a
    if carrier is None:
        least, best = (100 * min(end / plate, 1.0) for end in (made.points[-1][1], made.points[0][1]))
        source = "at its least carrier: which it runs at is not said"
        figure = need.sheet.given("left_carrier", "Left by the carrier", "k_c", best, "%",
                                  provenance=Provenance.ASSUMED, source=source)  # fmt: skip
        return _Part(figure, least, best)
    amps = made.amps_at(carrier)
    share = 100 * min((made.points[-1][1] if amps is None else amps) / plate, 1.0)
    if amps is not None and share >= 100:
        return None
    last = made.points[-1][0] / 1000
    hopeless = f"Its maker gives no amperes past {last:g} kHz." if amps is None else ""
    figure = need.sheet.given("left_carrier", "Left by the carrier", "k_c", share, "%",
                              provenance=Provenance.STAMPED, source="its maker's amperes by carrier")  # fmt: skip
    return _Part(figure, share, share, hopeless)


def _one_phase(need: Need) -> _Part | None:
    facts = need.facts
    if not facts.one_phase:
        return None
    plate = facts.heavy_a or facts.rated_a
    if facts.single_phase_a is not None and plate:
        share = 100 * facts.single_phase_a / plate
        figure = need.sheet.given("left_one_phase", "Left on one phase", "k_1", share, "%",
                                  provenance=Provenance.CATALOGUE, source="its maker")  # fmt: skip
        return _Part(figure, share, share)
    low, usual, high = (100 * end for end in _BRIDGE_ON_ONE)
    figure = need.sheet.given(
        "left_one_phase",
        "Left on one phase",
        "k_1",
        usual,
        "%",
        provenance=Provenance.ESTIMATED,
        source="a three-phase bridge on one phase: its input rises √3 times, its bus ripples",
    )
    return _Part(figure, low, high, "Its maker has not said that it may run on one phase.")
