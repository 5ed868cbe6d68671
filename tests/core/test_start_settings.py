"""What an empty field of the start is taken as: beside each field, and here a second time."""

from typing import ClassVar

import pytest

from tests.conftest import planner, whole
from vinegate.core.grade import Verdict
from vinegate.core.start.facts import Start
from vinegate.core.start.simulation import Settings


def settings(**typed):
    return Settings.of(Start.model_validate(typed), 0.1, 20.0, 1.0)


def test_usual_values():
    usual = settings()
    assert usual.transition == "open"
    assert usual.dead_s == pytest.approx(0.05)
    assert usual.taps == (0.5, 0.65, 0.8)
    assert usual.series == usual.taps
    assert (usual.part_current, usual.part_torque, usual.part_delay_s) == (0.65, 0.45, 2.0)
    assert (usual.initial, usual.ramp_s, usual.ramp_of) == (0.4, 10.0, "volts")
    assert (usual.kick, usual.kick_s) == (0.0, 0.0)
    assert (usual.drive_ramp_s, usual.drive_limit) == (10.0, 1.5)
    assert usual.steps == 1
    assert (usual.margin_pu, usual.most_i2t_s) == (0.1, 20.0)


@pytest.mark.parametrize("field", ["soft_ramp", "drive_ramp"])
def test_no_ramp_is_shorter_than_a_fifth_of_a_second(field):
    name = {"soft_ramp": "ramp_s", "drive_ramp": "drive_ramp_s"}[field]
    assert getattr(settings(**{field: "0.05 s"}), name) == 0.2
    assert getattr(settings(**{field: "0.3 s"}), name) == pytest.approx(0.3)


def test_a_kick_lasts_three_tenths_of_a_second_where_that_is_not_said():
    assert settings(kick="80 %").kick_s == 0.3
    assert settings(kick="80 %", kick_time="0.5 s").kick_s == 0.5


def test_what_is_typed_is_the_only_one_tried():
    one = settings(tap="65", series_volts="70 %", soft_limit="3.2")
    assert (one.taps, one.series, one.limits) == ((0.65,), (0.7,), (3.2,))


class TestLeftToBeFound:
    """A setting that somebody chose and that does not pass: the one that would be found stands beside it."""

    @pytest.mark.parametrize(("method", "chosen", "key", "found"), [
        ("soft-starter", {"start.soft_limit": "2"}, "start.torque", {"start.soft_limit": "3.4 ×"}),
        ("soft-starter", {"start.soft_limit": "3.3"}, "start.torque", {"start.soft_limit": "3.4 ×"}),
        ("autotransformer", {"start.tap": "50"}, "start.dip", {"start.tap": "65 %"}),
        ("reactor", {"start.series_volts": "40 %"}, "start.torque", {"start.series_volts": "65 %"}),
        ("wye-delta", {"start.changeover": "30 s"}, "start.per_hour", {}),
    ])  # fmt: skip
    def test_it_is_named_and_passes_once_it_is_typed(self, p11, method, chosen, key, found):
        way = {"start.method": method}
        gate = p11(way | chosen).gate(key)
        assert gate.verdict != "passes"
        for text in found.values() or ["a change-over at"]:
            assert f"Left to be found, it is {text}" in gate.sentence
        assert p11(way | found).gate(key).verdict == "passes"

    @pytest.mark.parametrize("chosen", [
        {"start.method": "soft-starter", "start.soft_limit": "3.5"},  # passes
        {"start.method": "wye-delta", "start.changeover": "1 s"},  # a later one lacks torque
        {"start.method": "full"},  # has none
        {"start.method": "soft-starter", "load.power": "90 hp"},  # was not set
    ])  # fmt: skip
    def test_else_nothing_is_said_of_it(self, p11, chosen):
        assert not any("Left to be found" in gate.sentence for gate in p11(chosen).gates)


class TestSoughtWithinTheDip:
    """What nobody has set is sought: that the least that surely starts sags too far does not make the way fail."""

    PUMP: ClassVar = {"start.method": "soft-starter", "load.kind": "pump-open", "load.breakaway": "15 %"}

    def row(self, method, dip, **more):
        facts = self.PUMP | {"start.method": method, "limits.dip": dip} | more
        return planner("skerry-sound.json", "H-1")(facts).comparison.row(method)

    def test_a_lower_limit_is_taken_where_it_starts_too(self):
        surely, within, none = (self.row("soft-starter", dip) for dip in ("2.8 %", "2.5 %", "2 %"))
        assert [one.verdict for one in (surely, within, none)] == [Verdict.PASSES, Verdict.PASSES, Verdict.FAILS]
        assert within.value < surely.value == none.value
        assert within.dip_pct <= 2.5 < surely.dip_pct

    def test_it_is_the_most_that_holds(self):
        """A tenth more would sag past it."""
        within = self.row("soft-starter", "2.5 %")
        more = self.row("soft-starter", "2.5 %", **{"start.soft_limit": f"{within.value + 0.1:.1f}"})
        assert more.dip_pct > 2.5

    def test_one_that_is_given_stays(self):
        given = self.row("soft-starter", "2.5 %", **{"start.soft_limit": "3.6"})
        assert (given.value, given.verdict) == (3.6, Verdict.FAILS)

    @pytest.mark.parametrize(("method", "high", "low"), [("reactor", 0.65, 0.5), ("resistor", 0.8, 0.65)])
    def test_the_volts_behind_what_stands_in_series_too(self, method, high, low):
        """W-2: the reactor passes at fewer volts; the resistor holds the dip, and fails by what else it lacks."""
        facts = {"load.kind": "pump-open", "load.breakaway": "15 %"}
        facts |= {"load.power": "25 kW"} if method == "resistor" else {}
        wide, narrow = (whole("skerry-sound.json", "W-2")(facts | {"limits.dip": dip}).comparison.row(method)
                        for dip in ("1.6 %", "1.2 %"))  # fmt: skip
        assert (wide.value, narrow.value) == (high, low)
        assert narrow.dip_pct <= 1.2 < wide.dip_pct
        if method == "reactor":
            assert narrow.verdict is Verdict.PASSES
