"""What an empty field of the start is taken as: beside each field, and here a second time."""

import pytest

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
