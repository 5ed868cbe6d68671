"""Terminal links, checked as circuits: each phase winding sees the volts it is wound for."""

import itertools
import math

import pytest

from tests.conftest import planner
from vinegate.core.plate.terminals import links_for
from vinegate.core.plate.volts import read_volts

# Half windings as NEMA numbers them: twelve leads (T1-T4, T7-T10 …); nine-lead wye has T10, T11, T12 joined inside.
HALVES = [("T1", "T4"), ("T2", "T5"), ("T3", "T6"), ("T7", "T10"), ("T8", "T11"), ("T9", "T12")]
PHASES = {"L1": 0.0, "L2": -120.0, "L3": 120.0}


def of(text, volts, leads, dialect="nec"):
    designation = read_volts(text)
    return links_for(designation, designation.nearest(volts)[1], leads, nema=dialect == "nec")


def volts_on_halves(links, inside=()):
    """Solve the network of six equal half windings for unit line-to-neutral volts: magnitude on each half.

    A balanced network of equal resistances gives the right shares, as equal impedances would.
    """
    import numpy as np

    nodes = {}
    for index, group in enumerate([*links.lines, *links.joined, *inside]):
        for terminal in group:
            nodes[terminal] = nodes.get(terminal, index)
    loose = itertools.count(100)
    for terminal in itertools.chain.from_iterable(HALVES):
        nodes.setdefault(terminal, next(loose))
    fixed = {index: np.exp(1j * math.radians(angle)) for index, angle in enumerate(PHASES.values())}
    free = sorted(set(nodes.values()) - set(fixed))
    matrix, right = np.zeros((len(free), len(free)), complex), np.zeros(len(free), complex)
    for a, b in HALVES:
        for here, there in ((nodes[a], nodes[b]), (nodes[b], nodes[a])):
            if here in fixed:
                continue
            matrix[free.index(here), free.index(here)] += 1
            if there in fixed:
                right[free.index(here)] += fixed[there]
            else:
                matrix[free.index(here), free.index(there)] -= 1
    solved = dict(zip(free, np.linalg.solve(matrix, right), strict=True)) if free else {}
    at = {**fixed, **solved}
    return [abs(at[nodes[a]] - at[nodes[b]]) for a, b in HALVES]


NINE_WYE_INSIDE = (("T10", "T11", "T12"),)
NINE_DELTA_INSIDE = (("T1", "T12"), ("T2", "T10"), ("T3", "T11"))


@pytest.mark.parametrize(
    ("leads", "volts", "index", "inside", "share"),
    [
        # Line-to-neutral is 1. Parallel wye: 1 on each half; series wye: 1/2; parallel delta: √3; series delta: √3/2.
        (12, 240, 0, (), math.sqrt(3)),
        (12, 240, 1, (), 1.0),
        (12, 480, 0, (), math.sqrt(3) / 2),
        (12, 480, 1, (), 0.5),
        (9, 240, 0, NINE_WYE_INSIDE, 1.0),
        (9, 480, 0, NINE_WYE_INSIDE, 0.5),
    ],
)
def test_every_half_winding_gets_the_same_and_the_right_volts(leads, volts, index, inside, share):
    links = of("230/460", volts, leads)[index]
    assert volts_on_halves(links, inside) == pytest.approx([share] * 6)


def test_nine_lead_delta():
    """Inside, T1, T2 and T3 are the corners: the far ends of T9, T7 and T8's halves are already on them."""
    low, high = of("230/460", 240, 9)[1], of("230/460", 480, 9)[1]
    assert low.lines == (("T1", "T6", "T7"), ("T2", "T4", "T8"), ("T3", "T5", "T9"))
    assert high.joined == (("T4", "T7"), ("T5", "T8"), ("T6", "T9"))


def test_a_winding_wound_for_one_voltage_fits_both_connections():
    """460 V in series puts on each half what 230 V in parallel does."""
    for leads, inside in ((12, ()), (9, NINE_WYE_INSIDE)):
        low, high = of("230/460", 240, leads)[0], of("230/460", 480, leads)[0]
        assert [2 * value for value in volts_on_halves(high, inside)] == pytest.approx(volts_on_halves(low, inside))


def test_iec_six_ends():
    delta, star = of("400Δ/690Y", 400, 6, "iec")
    assert delta.lines == (("U1", "W2"), ("V1", "U2"), ("W1", "V2"))
    assert star.joined == (("U2", "V2", "W2"),)
    assert [way.name for way in of("230Δ/400Y", 400, 6, "iec")] == ["star"]  # never delta on 400 V


@pytest.mark.parametrize("leads", [3, 6, 9, 12])
def test_every_terminal_is_used_once(leads):
    for way in of("460" if leads in (3, 6) else "230/460", 480, leads):
        assert sorted(way.terminals, key=lambda t: int(t[1:])) == [f"T{n}" for n in range(1, leads + 1)]


def test_what_is_not_settled_is_not_drawn():
    assert of("230/460", 480, 6) == ()
    assert of("230/460", 480, None) == ()
    assert planner("harrowmere-lock.json", "G-21")().gate("wye_delta.eligible").needs == ("leads",)


@pytest.mark.parametrize(("leads", "names"), [(6, ["delta", "star"]), (None, []), (9, []), (3, ["three leads"])])
def test_a_delta_alone_on_the_plate_is_settled_by_its_six_ends(leads, names):
    """400Δ says how it runs; that six ends are brought out says that it may start in star."""
    assert [one.name for one in of("400Δ", 400, leads, "iec")] == names


@pytest.mark.parametrize(("leads", "names"), [(6, ["delta", "star"]), (None, ["delta", "star"]), (9, ["delta"])])
def test_both_on_the_plate_are_six_ends_unless_others_are_counted(leads, names):
    assert [one.name for one in of("400Δ/690Y", 400, leads, "iec")] == names
