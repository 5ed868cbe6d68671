"""The first moment as a function of its facts: one loop of three impedances, solved by complex numbers."""

import cmath
import math

import pytest

from vinegate.core.start.sag import Angle, Sag
from vinegate.core.turning import point


def sag(**more):
    facts = {
        "volts_v": 480.0,
        "plate_v": 460.0,
        "divisor": math.sqrt(3),
        "run_ohm": complex(0.02, 0.01),
        "current": point(560.0),
        "factor": point(0.35),
        "angles": (Angle(ohms=0.004, ratio=point(6.0)), Angle(ohms=0.022, ratio=point(4.0))),
    }
    return Sag(**facts | more)


def loop(made, amps, factor, ratios, share):
    """Source, run and machine as complex ohms, by their own angles."""
    source = sum(cmath.rect(one.ohms, math.atan(ratio)) for one, ratio in zip(made.angles, ratios, strict=True))
    motor = cmath.rect(460 / (math.sqrt(3) * amps * share), math.acos(factor))
    return source, made.run_ohm, motor


@pytest.mark.parametrize("share", [1.0, 1 / 3, 0.65])
@pytest.mark.parametrize("facts", [(560.0, 0.35, 6.0, 4.0), (620.0, 0.2, 2.0, 9.0)])
def test_falls_volts_and_amperes_are_those_of_the_loop(share, facts):
    made = sag()
    source, run, motor = loop(made, facts[0], facts[1], facts[2:], share)
    whole = abs(source + run + motor)
    assert made.fall(facts, share) == pytest.approx(1 - abs(run + motor) / whole)
    assert made.stays(facts, share) == pytest.approx(abs(motor) / whole * 480 / 460)
    assert made.draws(facts, share) == pytest.approx(480 / (math.sqrt(3) * whole))


@pytest.mark.parametrize("share", [1.0, 0.8, 0.5, 1 / 3, 0.1])
def test_the_share_is_found_again_from_what_it_draws(share):
    made, facts = sag(), (560.0, 0.35, 6.0, 4.0)
    assert made.share_drawing(facts, made.draws(facts, share)) == pytest.approx(share)


def test_more_than_all_of_it_is_all_of_it():
    made, facts = sag(), (560.0, 0.35, 6.0, 4.0)
    assert made.share_drawing(facts, 5 * made.draws(facts)) == 1.0


def test_with_the_facts_as_taken_nothing_is_deeper():
    made = sag()
    taken = [one.value for one in made.rests]
    assert made.deeper(taken) == pytest.approx(1.0)
    assert made.more(taken) == pytest.approx(1.0)
    more = [1.2 * taken[0], *taken[1:]]
    assert made.deeper(more) == pytest.approx(made.fall(more) / made.fall(taken))
    assert made.more(more) == pytest.approx(made.draws(more) / made.draws(taken))
    assert made.deeper(more, 1 / 3) > 1


def test_what_is_left_once_it_runs_goes_with_resistance_first():
    """At a power factor of 0.85, by phasors: a source of more resistance holds less, though it dips less at rest."""
    made, taken, more = sag(), (560.0, 0.35, 6.0, 4.0), (560.0, 0.35, 2.0, 1.5)
    turned = cmath.rect(1, -math.acos(0.85))
    falls = [(loop(made, *facts[:2], facts[2:], 1.0)[0] * turned).real for facts in (taken, more)]
    assert made.settles(more) == pytest.approx(falls[1] / falls[0])
    assert made.settles(more) > 1.15
    assert made.deeper(more) < 1


@pytest.mark.parametrize("facts", [(560.0, 0.35, 2.0, 1.5), (620.0, 0.5, 9.0, 8.0)])
def test_held_amperes_stay_though_the_board_falls(facts):
    """Board volts are found where the same amperes, at the load's own angle, leave the source its one per unit."""
    made, taken = (
        sag(angles=(Angle(ohms=0.15, ratio=point(6.0)), Angle(ohms=0.2, ratio=point(4.0)))),
        (560.0, 0.35, 6.0, 4.0),
    )
    source, run, motor = loop(made, *taken[:2], taken[2:], 0.6)
    amps = cmath.rect(1 / abs(source + run + motor), -cmath.phase(run + motor))

    def fall(ohms):
        low, high = 0.0, 1.0
        for _ in range(60):
            middle = (low + high) / 2
            low, high = (middle, high) if abs(middle + amps * ohms) < 1 else (low, middle)
        return 1 - low

    other = loop(made, *facts[:2], facts[2:], 0.6)[0]
    assert made.deeper_held(facts, 0.6) == pytest.approx(fall(other) / fall(source), rel=1e-9)
    assert fall(source) > 0.1
