"""Every line of every plan can be redone on a calculator from what it shows."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.calculator import redo
from tests.core.random_facts import circuit, jobs, sampled
from tests.examples import examples
from vinegate.core.plan import NOTHING, plan_raw
from vinegate.core.work import Kept
from vinegate.core.working import Provenance, work
from vinegate.core.working import given as fact


def test_every_demo_line_gives_its_value(demo_plans):
    redone = 0
    for tag, plan in demo_plans.items():
        for stage in plan.stages:
            for figure in stage.figures:
                if figure.formula:
                    assert redo(figure.substituted) == pytest.approx(figure.value, rel=5e-4, abs=2e-4), (
                        tag,
                        figure.key,
                    )
                    redone += 1
    assert redone > 400


def not_redone(plans):
    """Lines of plans that come out otherwise on the calculator, and the formulas that were tried."""
    wrong, tried = [], set()
    for number, plan in enumerate(plans):
        for figure in (figure for stage in plan.stages for figure in stage.figures if figure.formula):
            tried.add((figure.key, figure.formula))
            if redo(figure.substituted) != pytest.approx(figure.value, rel=5e-4, abs=2e-4):
                wrong.append((number, figure.key, figure.substituted, figure.value))
    return wrong, tried


@pytest.mark.slow
def test_every_line_of_random_circuits_gives_its_value():
    """Text and value of a formula agree on facts that nobody chose, in both rule sets."""
    wrong, tried = not_redone(sampled())
    assert wrong == []
    assert len(tried) > 280


@pytest.mark.slow
def test_a_symbol_is_one_figure_of_its_sheet(demo_plans):
    """A line's symbols are those of the lines above it: a reader must find each once."""
    for plan in [*demo_plans.values(), *sampled()]:
        for stage in plan.stages:
            named = {}
            for figure in stage.figures:
                other = named.setdefault(figure.symbol, figure)
                assert not figure.symbol or other.value == pytest.approx(figure.value), (other.key, figure.key)


@pytest.mark.slow
@given(seed=st.integers(0, 10**6))
@examples(30)
def test_every_line_of_any_random_circuit_gives_its_value(seed):
    assert not_redone([plan_raw(*circuit(seed, jobs()))])[0] == []


@pytest.mark.slow
def test_what_is_entered_is_not_assumed_and_what_is_assumed_was_not_entered(demo_plans):
    plans = [*demo_plans.values(), *sampled()]
    figures = [figure for plan in plans for stage in plan.stages for figure in stage.figures if not figure.formula]
    both = [one for one in figures if one.source == "entered" and one.soft and not one.note]
    assert [(one.key, one.provenance) for one in both] == []
    assert [(one.key, one.source) for one in figures if one.source.startswith("assumed") and not one.soft] == []
    assert len(figures) > 3000


def test_every_figure_says_where_it_came_from(demo_plans):
    for plan in demo_plans.values():
        for stage in plan.stages:
            keys = [figure.key for figure in stage.figures]
            assert all(figure.source for figure in stage.figures)
            assert len(keys) == len(set(keys)) or stage.key == "start", keys


def test_a_result_is_as_weak_as_its_weakest_input():
    firm = fact("a", "A", "a", 2, "", provenance=Provenance.STAMPED)
    soft = fact("b", "B", "b", 3, "", provenance=Provenance.ASSUMED)
    assert work("c", "C", "c", 6, "", formula="a·b", inputs=(firm, soft), source="").provenance is Provenance.ASSUMED


def test_substitution_takes_whole_symbols_and_brackets_negatives():
    r, r_m = fact("r", "", "R", 1, ""), fact("rm", "", "R_m", -2, "")
    assert work("s", "Sum", "S", -1.0, "Ω", formula="R+R_m", inputs=(r, r_m), source="").substituted == "1+(−2)"


@pytest.mark.slow
def test_what_is_said_to_be_entered_hangs_on_a_fact_that_was():
    """Each fact taken away in turn: no figure stays as it was, and entered, whichever is gone."""
    (rules, job, facts), kept = circuit(348, jobs()), Kept()

    def lines(job, facts):
        stages = plan_raw(rules, job, facts, beside=NOTHING, kept=kept).stages
        return {one.key: (one.value, one.source) for stage in stages for one in stage.figures if not one.formula}

    first = lines(job, facts)
    left = {key for key, (_, source) in first.items() if source.startswith("entered")}
    assert len(left) > 20
    for raw in (job, facts):
        for part, name in [(part, name) for part, fields in raw.items() if isinstance(fields, dict) for name in fields]:
            less = raw | {part: {key: text for key, text in raw[part].items() if key != name}}
            now = lines(less, facts) if raw is job else lines(job, less)
            left = {key for key in left if now.get(key) == first[key]}
    assert left == set()
