"""What is advised serves every start that it is fitted for: past a drive and on the standby too, where anything does."""

import pytest

from tests.conftest import planner
from vinegate.core.grade import Verdict

SOUND, LOCK = "skerry-sound.json", "harrowmere-lock.json"
NOTHING = {"protection.rating": None, "protection.trip_class": None, "protection.disconnect": None}
ALONE = {"starter.bypass": "no"}
SLIP = {"standby.transient_reactance": "0.2", "standby.x_over_r": "12", "start.method": "full-voltage"}
HARD = Verdict.FAILS


def advised(plan):
    """The device's rating, the relay's class and the run's size."""
    found = plan.protected
    return found.device("device").advised, found.overload.trip, found.device("conductors").advised


@pytest.mark.parametrize(
    ("key", "path"),
    [("holds", "protection.rating"), ("class", "protection.trip_class"), ("loop", "wiring.size")],
)
def test_past_its_drive_what_is_advised_holds_the_start_and_clears_a_fault(key, path):
    """F-3 takes 37 s across the line: 63 A and class 10, enough for its drive, would open."""
    fan, long = planner(SOUND, "F-3"), NOTHING | {"wiring.length": "240 m"}
    unlaid = [fan(long | {"wiring.size": None} | changes) for changes in ({}, ALONE)]
    assert [plan.protected.device("conductors").advised for plan in unlaid] == ["70 mm²", "25 mm²"]
    both, drives = (
        fan(long | {"wiring.size": size} | changes) for size, changes in (("70 mm²", {}), ("25 mm²", ALONE))
    )
    assert (advised(both), advised(drives)) == (("125 A", "40", "70 mm²"), ("63 A", "10", "25 mm²"))
    whole = long | dict(zip(("protection.rating", "protection.trip_class", "wiring.size"), advised(both), strict=True))
    assert fan(whole).gate(f"starter.bypass_protection_{key}").verdict is not HARD
    less = dict(zip(("protection.rating", "protection.trip_class", "wiring.size"), advised(drives), strict=True))[path]
    assert fan(whole | {path: less}).gate(f"starter.bypass_protection_{key}").verdict is HARD


def test_what_is_asked_says_for_which_start():
    fan = planner(SOUND, "F-3")
    device = fan(NOTHING).protected.device("device")
    assert device.asked.endswith(", and for its start past its drive")
    assert fan(NOTHING | ALONE).protected.device("device").asked == "≥ 58 A"
    run = fan(NOTHING | {"wiring.length": "240 m"}).protected.device("conductors")
    assert run.asked.endswith("the earth-fault loop past its drive")


@pytest.mark.parametrize(
    "barred",
    [
        {"supply.frequency": "60 Hz"},  # the line itself is none for this motor
        {"drive.motors": "2", "start.method": "drive"},
        {"starter.bypass": None},
    ],
)
def test_a_start_that_cannot_be_asks_for_nothing(barred):
    fan = planner(SOUND, "F-3")
    assert (
        fan(NOTHING | barred).protected.device("device").asked
        == fan(NOTHING | barred | ALONE).protected.device("device").asked
    )
    assert fan(NOTHING | barred).protected.overload.trip == "10"


def test_where_nothing_serves_elsewhere_it_is_advised_for_its_own_start():
    """The drive's maker allows 80 A ahead of it, and a relay of class 40 does not hold a start of minutes."""
    fan = planner(SOUND, "F-3")
    marked = fan(NOTHING | {"protection.drive_device": "80 A"})
    assert marked.protected.device("device").advised == "63 A"
    assert marked.gate("starter.bypass_protection_holds").verdict is HARD
    heavy = fan(NOTHING | {"load.inertia": "400 kg·m²"})
    assert heavy.gate("starter.bypass_protection_class").verdict is HARD
    assert heavy.protected.overload.trip == fan(NOTHING | ALONE | {"load.inertia": "400 kg·m²"}).protected.overload.trip


@pytest.mark.parametrize(
    ("kva", "size"),
    [
        ("900 kVA", "25 mm²"),  # as on the utility alone
        ("700 kVA", "35 mm²"),
        ("550 kVA", "95 mm²"),
        ("200 kVA", "25 mm²"),  # the generator itself gives too little: no size helps
    ],
)
def test_a_run_keeps_the_terminals_volts_on_the_standby_as_well(kva, size):
    """H-1 across the line: 84.0 % of 85 behind 25 mm² on 700 kVA."""
    pump = planner(SOUND, "H-1")
    on = SLIP | {"standby.generator_power": kva, "wiring.size": None}
    assert pump(on | {"start.on_standby": "no"}).protected.device("conductors").advised == "25 mm²"
    run = pump(on | {"start.on_standby": "yes"}).protected.device("conductors")
    assert run.advised == size
    there = pump(on | {"start.on_standby": "yes", "wiring.size": size}).gate("supply.standby_start_terminals")
    assert (there.verdict is HARD) is (kva == "200 kVA")
    assert ("on the standby" in run.asked) is (size != "25 mm²")


@pytest.mark.parametrize(
    ("length", "size", "reason"),
    [
        ("90 m", "10 mm²", "volts at the terminals"),
        ("100 m", "16 mm²", "volts at the terminals over all that is estimated"),
        ("200 m", "25 mm²", "the earth-fault loop"),
    ],
)
def test_a_run_is_advised_a_little_larger_for_what_is_estimated(length, size, reason):
    """W-2 across the line: 6.5 times, a fifth more allowed (IEC 60034-1 table 20); behind 100 m of 10 mm² it may not."""
    winch, on = planner(SOUND, "W-2"), {"wiring.length": length, "start.method": "full-voltage"}
    run = winch(on).protected.device("conductors")
    assert (run.advised, run.asked) == (size, f"≥ 36 A, and for {reason}")
    assert winch(on | {"wiring.size": size}).gate("start.terminals").verdict is Verdict.PASSES
    thin = winch(on | {"wiring.size": "10 mm²"}).gate("start.terminals").verdict
    assert (thin is Verdict.CHECK) is (length == "100 m")


def test_a_size_of_which_no_table_knows_what_it_carries_is_not_advised():
    """400 mm² has no column for a cable on a wall (IEC 60364-5-52 table B.52.4 ends at 300 mm²)."""
    pump = planner(SOUND, "H-1")
    far, farther = (pump({"wiring.length": metres}).protected.device("conductors") for metres in ("1200 m", "1400 m"))
    assert (far.advised, farther.advised) == ("300 mm²", "16 mm²")
    assert farther.asked.endswith("; no single size serves drop while running")


@pytest.mark.parametrize(("kind", "inertia"), [("time-delay", "300 kg·m²"), ("instantaneous", "60 kg·m²")])
def test_a_larger_device_is_allowed_for_the_start_past_its_drive(kind, inertia):
    """NFPA 70:2023 430.52(C)(1), exceptions, and 430.130(B): one device serves drive and by-pass; M-41."""
    mixer = planner(LOCK, "M-41")
    across = {"start.method": "drive", "starter.bypass": "yes", "load.inertia": inertia, "start.on_standby": "no",
              "protection.device_nec": kind, "protection.rating": None}  # fmt: skip
    drives, both = (mixer(changes).protected.device("device").advised for changes in (across | ALONE, across))
    assert float(both.removesuffix(" A")) > float(drives.removesuffix(" A"))
    smaller, larger = (mixer(across | {"protection.rating": rating}) for rating in (drives, both))
    assert smaller.gate("starter.bypass_protection_holds").verdict is not Verdict.PASSES
    for key in ("protection.device", "starter.bypass_protection_holds"):
        assert larger.gate(key).verdict is Verdict.PASSES


def test_above_the_usual_rating_it_is_for_that_start_alone():
    """45 A where 40 A is usual: nothing but the by-pass asks for it."""
    facts = {"start.method": "drive", "load.inertia": "300 kg·m²", "start.on_standby": "no",
             "protection.device_nec": "time-delay", "protection.rating": "45 A"}  # fmt: skip
    mixer = planner(LOCK, "M-41")
    assert mixer(facts | ALONE).gate("protection.device").verdict is HARD
