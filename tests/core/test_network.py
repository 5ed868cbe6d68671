"""The radial network against node equations, and what must hold of it whatever its numbers."""

import cmath
import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.conftest import planner, whole
from tests.examples import examples
from vinegate.core.grade import Verdict
from vinegate.core.supply.network import (
    Bus,
    Network,
    fault_currents_a,
    seen_from,
    shares_in_fault,
    solve,
    with_regulated_root,
)

Z = (0.004 + 0.03j, 0.02 + 0.01j, 0.03 + 0.05j, 0.01 + 0.004j)


def tree(*, y=(0.3 - 0.1j, 0.2 - 0.15j, 0.1j, 0.4 - 0.2j), s=(0, 0, 0, 0), emf=1.0):
    """Main with two boards, one of which feeds a third."""
    parents = (-1, 0, 0, 1)
    buses = tuple(
        Bus(key=f"b{n}", name=f"b{n}", parent=parents[n], z_pu=Z[n], volts_v=480, y_pu=y[n], s_pu=s[n])
        for n in range(4)
    )
    return Network(buses=buses, emf_pu=emf)


def by_node_equations(network, at=None, extra=0j):
    """Y·V = J, solved as a matrix."""
    n = len(network.buses)
    matrix, source = np.zeros((n, n), dtype=complex), np.zeros(n, dtype=complex)
    for i, bus in enumerate(network.buses):
        branch = 1 / bus.z_pu
        matrix[i, i] += branch + bus.y_pu + (extra if i == at else 0)
        if bus.parent < 0:
            source[i] += branch * network.emf_pu
        else:
            matrix[bus.parent, bus.parent] += branch
            matrix[i, bus.parent] -= branch
            matrix[bus.parent, i] -= branch
    return np.linalg.solve(matrix, source)


@pytest.mark.parametrize("at", [0, 1, 2, 3])
def test_against_node_equations(at):
    network = tree()
    assert solve(network) == pytest.approx(by_node_equations(network), rel=1e-12)
    extra = 2.1 - 5.4j
    assert solve(network, at=at, y_pu=extra) == pytest.approx(by_node_equations(network, at, extra), rel=1e-12)


@examples(40)
@given(at=st.integers(0, 3), a=st.floats(0.1, 5), b=st.floats(0.1, 5))
def test_dips_superpose(at, a, b):
    """Linear loads: the fall of two currents together is the sum of their falls."""
    seen = seen_from(tree(), at)
    one, two = a * cmath.exp(-1.2j), b * cmath.exp(-0.4j)
    before = seen.volts(np.array(0j))

    def fall(current):
        return before - seen.volts(np.array(current))

    assert fall(one + two) == pytest.approx(fall(one) + fall(two))
    y = 1.5 - 4j
    current = solve(tree(), at=at, y_pu=y)[at] * y
    assert seen.volts(np.array(current)) == pytest.approx(solve(tree(), at=at, y_pu=y))


@examples(40)
@given(p=st.floats(0.1, 1.5), q=st.floats(0.0, 1))
def test_constant_power_is_drawn(p, q):
    s = complex(p, q)
    network = tree(s=(0, 0, s, 0))
    volts = solve(network)
    drawn = volts[2] * np.conj(np.conj(s) / abs(volts[2]) ** 2 * volts[2])
    assert drawn == pytest.approx(s)
    assert abs(volts[2]) > 0.7  # below, it gives way like an impedance
    into = (volts[0] - volts[2]) / Z[2]
    assert volts[2] * np.conj(into - network.buses[2].y_pu * volts[2]) == pytest.approx(s, rel=1e-6)


def test_constant_power_sags_more_than_constant_impedance():
    y = 2 - 6j
    held = solve(tree(s=(0, 0, 0, 1.5 + 0.7j)), at=3, y_pu=y)
    soft = solve(tree(y=(0.3 - 0.1j, 0.2 - 0.15j, 0.1j, 0.4 - 0.2j + 1.5 - 0.7j)), at=3, y_pu=y)
    assert abs(held[3]) < abs(soft[3])


def test_a_regulated_generator_holds_its_board_before_the_start():
    for s in (0, 2 + 1j):
        network = with_regulated_root(tree(s=(s, 0, 0, 0)))
        assert abs(solve(network)[0]) == pytest.approx(1.0)
        assert network.emf_pu > 1
    with pytest.raises(ValueError, match="cannot hold"):
        with_regulated_root(tree(y=(60 - 90j, 0, 0, 0)))


def test_fault_currents_from_impedances():
    """1 MVA over √3·480 V over the sum of the impedances on the way."""
    amps = fault_currents_a(tree())
    base = 1e6 / (3**0.5 * 480)
    assert amps[0] == pytest.approx(base / abs(Z[0]))
    assert amps[3] == pytest.approx(base / abs(Z[0] + Z[1] + Z[3]))


@pytest.mark.parametrize("at", range(4))
@pytest.mark.parametrize("own", range(4))
def test_a_machine_beside_adds_its_share_to_a_fault_and_no_more(at, own):
    """Node equations with a machine's own volts behind its reactance: a small one adds its share, a large one less."""
    network = tree(y=(0j,) * 4)

    def fault(machine):
        rows = np.zeros((4, 4), dtype=complex)
        for i, bus in enumerate(network.buses):
            rows[i, i] += 1 / bus.z_pu
            if bus.parent >= 0:
                rows[bus.parent, bus.parent] += 1 / bus.z_pu
                rows[i, bus.parent] -= 1 / bus.z_pu
                rows[bus.parent, i] -= 1 / bus.z_pu
        rows[own, own] += machine
        return 1 / np.linalg.inv(rows)[at, at]

    alone, share = fault(0), shares_in_fault(network, at)[own]
    small, large = -1e-6j, -40j
    assert abs(fault(small) - alone) == pytest.approx(1e-6 * share, rel=1e-3)
    assert abs(fault(large)) <= abs(alone) + 40 * share
    assert (share == 1) == (own == at or (at == 1 and own == 3) or at == 0)


def test_motors_behind_a_transformer_do_not_feed_a_fault_as_if_none_stood_between():
    """500 kVA of motors at 480 V made 10 kA of 4.8 behind 75 kVA: gear for 10 kA failed."""
    behind = {"board_2.motor_power": "0 kVA", "main_board.load_power": "500 kVA", "board_1.motor_power": "45 kVA"}
    plan = planner("harrowmere-lock.json", "C-71")
    none, all_of_it = (plan(behind | {"main_board.motor_power": kva}) for kva in ("0 kVA", "500 kVA"))
    at = none.figure("supply.fault_at_board_2").value
    added = all_of_it.figure("supply.motors_fault_main").value
    # 45 kVA, 3.5 %: 11.6 % of its own volts' ohms stand ahead of it, squared
    assert 0 < added < 0.03 * 4 * 500 / (math.sqrt(3) * 240)
    assert added < 0.05 * at


def test_feeder_lowers_fault_level_and_terminals():
    m41 = planner("harrowmere-lock.json", "M-41")
    plan, direct = m41(), m41({"wiring.board": None})
    assert plan.figure("supply.fault_at_board_1").value < plan.figure("supply.fault_at_board").value
    assert plan.figure("start.full.terminals").value < direct.figure("start.full.terminals").value


def test_dip_at_the_circuits_board_is_deeper_than_at_the_main():
    found = planner("harrowmere-lock.json", "M-41")().comparison
    row = found.row("full-voltage")
    (before, main, after), (_, own, _) = (row.bus_volts_pct[found.buses.index(n)] for n in ("MSB", "Digester MCC"))
    assert own < main < after <= before


def test_both_sources_are_shown_and_can_be_switched():
    plan = whole("harrowmere-lock.json", "P-11")
    utility, standby = plan(), plan({"supply.in_use": "standby"})
    other = {method: dip for method, _, dip, _ in utility.comparison.other.rows}
    assert standby.comparison.row("full-voltage").dip_pct == pytest.approx(other["full-voltage"])
    back = {method: dip for method, _, dip, _ in standby.comparison.other.rows}
    assert utility.comparison.row("full-voltage").dip_pct == pytest.approx(back["full-voltage"])
    assert standby.figure("supply.generator_z").value == pytest.approx(0.22 * 480**2 / 300)
    assert standby.gate("start.dip").verdict is Verdict.FAILS or standby.comparison.chosen == "drive"


def test_a_missing_feeder_is_named_and_nothing_is_guessed(p11):
    plan = p11({"wiring.board": "board_3", "board_3.name": "New board"})
    assert plan.comparison is None
    assert "board_3.size" in {missing.path for missing in plan.missing}
    assert plan.figure("start.full.current") is None


def test_boards_in_a_ring_do_not_hang(p11):
    plan = p11({"board_1.fed_from": "board_2", "board_2.fed_from": "board_1", "wiring.board": "board_1"})
    assert plan.errors == ()


def test_line_to_ground_fault_behind_a_delta_wye(p11):
    """With Z0 equal to Z1 of a stiff source the fault to ground is the three-phase fault."""
    stiff = {"supply.fault_level": "90000 MVA", "supply.transformer_zero": "5.0 %"}
    plan = p11(stiff)
    three, ground = plan.figure("supply.fault_at_board").value, plan.figure("supply.fault_to_ground").value
    assert ground == pytest.approx(three, rel=1e-3)


def test_line_to_ground_fault_falls_along_the_feeder():
    m41 = planner("harrowmere-lock.json", "M-41")
    plan = m41({"supply.transformer_zero": "5.0 %", "board_1.zero_ratio": "3"})
    main, board = plan.figure("supply.fault_to_ground").value, plan.figure("supply.fault_to_ground_board_1").value
    assert board < main
    one = m41({"supply.transformer_zero": "5.0 %", "board_1.zero_ratio": "1"})
    # With Z0 = Z1 along the feeder only the source's own differs from the three-phase fault.
    assert one.figure("supply.fault_to_ground_board_1").value == pytest.approx(
        one.figure("supply.fault_at_board_1").value, rel=0.03
    )
    assert m41({"supply.transformer_zero": "5.0 %"}).figure("supply.fault_to_ground_board_1") is None


def test_a_fault_current_on_assumed_ratios_is_not_shown_as_known(p11):
    zero = {"supply.transformer_zero": "5.0 %"}
    m41 = planner("harrowmere-lock.json", "M-41")
    ratios = {"supply.transformer_x_over_r": "6", "supply.fault_x_over_r": "10", "board_1.zero_ratio": "3"}
    keys = ("supply.zero_ratio", "supply.fault_to_ground")
    assert all(p11(zero | {"supply.transformer_x_over_r": None}).figure(key).soft for key in keys)
    known = p11(zero | ratios)
    assert not any(known.figure(key).soft for key in keys)
    assert known.figure("supply.zero_ratio").value == 6
    below = ("supply.fault_at_board_1", "supply.fault_to_ground_board_1")
    assumed = {"supply.transformer_x_over_r": None, "board_1.zero_ratio": "3"}
    assert all(m41(zero | assumed).figure(key).soft for key in below)


ONE = {"supply.transformer_power": "500 kVA", "supply.transformer_zero": "4 %"}
TWO = ONE | {"supply.transformer_power": "250 kVA", "supply.transformers": "2"}
P11 = planner("harrowmere-lock.json", "P-11")


class TestTransformersInParallel:
    """Alike, they are one of their sum."""

    @pytest.mark.parametrize("file", ["harrowmere-lock.json", "skerry-sound.json"])
    def test_all_that_follows_is_the_same(self, file):
        tag = "P-11" if file.startswith("harrow") else "H-1"
        one, two = (planner(file, tag)(facts) for facts in (ONE, TWO))
        figures = {figure.key: figure.value for stage in two.stages for figure in stage.figures}
        for figure in (figure for stage in one.stages for figure in stage.figures):
            assert figures[figure.key] == pytest.approx(figure.value, rel=1e-9), figure.key
        verdicts = [{gate.key: gate.verdict for gate in plan.gates} for plan in (one, two)]
        assert verdicts[0] == verdicts[1]

    def test_one_of_them_alone_is_softer(self):
        """Twice the ohms of a 500 kVA bank, and it is said."""
        two, alone = (P11(facts) for facts in (TWO, TWO | {"supply.transformers": None}))
        z = [plan.figure("supply.transformer_z").value for plan in (two, alone)]
        assert z[1] == pytest.approx(2 * z[0])
        said = [any("out of service" in note for stage in plan.stages for note in stage.notes) for plan in (two, alone)]
        assert said == [True, False]

    @pytest.mark.parametrize(("each", "verdict"), [("51", "fails"), ("55", "check"), ("59.5", "passes")])
    def test_together_they_carry(self, each, verdict):
        """73.3 kVA, 67.4 as loaded at least, beside 45 kVA, 38.3 in another phase: 105.7 to 118.3 kVA."""
        facts = {"supply.transformer_power": f"{each} kVA", "supply.transformers": "2"}
        gate = P11(facts).gate("protection.source")
        assert gate.verdict == verdict
        assert gate.value == pytest.approx(2 * float(each))
        if verdict == "check":  # what it names is typed for each of them
            assert P11(facts | {"supply.transformer_power": gate.turns.passes_as}).gate(
                "protection.source"
            ).verdict == ("passes")
