"""A start that lacks torque by the amperes that nobody gave does not fail: what draws less keeps more of its volts."""

from __future__ import annotations

import pytest

from tests.conftest import planner
from tests.core.good import SOUND
from vinegate.core.grade import Verdict

W2 = planner(SOUND, "W-2")
UNSAID = {"plate.starting_current_ratio": None, "plate.design_letter": None, "start.method": "full-voltage"}
AT = {"wiring.length": "600 m"}


@pytest.mark.parametrize(
    ("facts", "verdict"),
    [
        (AT, Verdict.CHECK),  # 5 to 8 times are assumed
        (AT | {"plate.starting_current_ratio": "8"}, Verdict.FAILS),
        (AT | {"plate.starting_current_ratio": "5.1"}, Verdict.CHECK),  # of the torques that are promised
        ({"wiring.length": "1200 m"}, Verdict.FAILS),  # whatever it draws
        ({"wiring.length": "110 m"}, Verdict.PASSES),
        (AT | {"start.method": "soft-starter", "start.soft_limit": "3"}, Verdict.FAILS),  # electronics hold the amperes
    ],
)
def test_only_amperes_that_are_given_fail_it(facts, verdict):
    assert W2(UNSAID | facts).gate("start.torque").verdict is verdict


@pytest.mark.parametrize("length", ["110 m", "350 m", "600 m"])
def test_less_than_is_taken_never_leaves_less(length):
    """What passes passes at the high end, as before: a current typed within the band is no worse than the band."""
    ranks = [Verdict.PASSES, Verdict.CHECK, Verdict.FAILS]
    whole = W2(UNSAID | {"wiring.length": length}).gate("start.torque").verdict
    ends = [
        W2(UNSAID | {"wiring.length": length, "plate.starting_current_ratio": ratio}).gate("start.torque").verdict
        for ratio in ("5", "6.5", "8")
    ]
    found = [ranks.index(one) for one in ends]
    assert found == sorted(found)
    assert min(found) <= ranks.index(whole) <= max(found)
