"""Every line of every plan can be redone on a calculator from what it shows."""

import pytest

from tests.core.calculator import redo
from vinegate.core.working import Provenance, given, substitute, work


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


def test_every_figure_says_where_it_came_from(demo_plans):
    for plan in demo_plans.values():
        for stage in plan.stages:
            keys = [figure.key for figure in stage.figures]
            assert all(figure.source for figure in stage.figures)
            assert len(keys) == len(set(keys)) or stage.key == "start", keys


def test_a_result_is_as_weak_as_its_weakest_input():
    firm = given("a", "A", "a", 2, "", provenance=Provenance.STAMPED)
    soft = given("b", "B", "b", 3, "", provenance=Provenance.ASSUMED)
    assert work("c", "C", "c", 6, "", formula="a·b", inputs=(firm, soft), source="").provenance is Provenance.ASSUMED


def test_substitution_takes_whole_symbols_and_brackets_negatives():
    r, r_m = given("r", "", "R", 1, ""), given("rm", "", "R_m", -2, "")
    assert substitute("R+R_m", (r, r_m)) == "1+(−2)"
