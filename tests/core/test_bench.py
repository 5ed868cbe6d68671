"""The bench: what each stand-in reads, and the wrong settings people make; the meter over its own wire."""

import subprocess
import sys
from pathlib import Path

import pytest

from tests.core.recordings import side
from vinegate.bench.instruments import Bench, Clamp, DriveStatus, InsulationTester, Meter, PhaseSequence, Tachometer
from vinegate.bench.modbus import served
from vinegate.core.record.unbalance import deviation_pct
from vinegate.instruments import meter as adapter


@pytest.fixture(scope="module")
def plan():
    return side("H-1")


@pytest.fixture
def bench(plan):
    return Bench(plan, seed=3)


def test_the_meter_reads_the_plan_with_its_noise(bench):
    found = Meter(bench=bench).read()
    amps, _ = bench.running()
    assert found["I1"] == pytest.approx(amps, rel=0.015)
    assert deviation_pct(found["U12"], found["U23"], found["U31"]) < 1
    assert found["P"] == pytest.approx(3**0.5 * 400 * amps * 0.85, rel=0.03)


def test_a_wrong_ratio_doubles_amperes_and_a_reversed_clamp_takes_power(bench):
    assert Meter(bench=bench, ratio=2.0).read()["I2"] == pytest.approx(2 * bench.running()[0], rel=0.02)
    assert Meter(bench=bench, reversed_phase=2).read()["P"] == pytest.approx(
        Meter(bench=bench).read()["P"] / 3, rel=0.05
    )


def test_a_stale_meter_repeats_itself(bench):
    stale = Meter(bench=bench, stale=True)
    assert stale.read() == stale.read()
    fresh = Meter(bench=bench)
    assert fresh.read() != fresh.read()


def test_the_same_seed_reads_the_same(plan):
    assert Meter(bench=Bench(plan, 8)).read() == Meter(bench=Bench(plan, 8)).read()


def test_a_clamp_shows_its_ranges_end_and_holds_its_most(bench):
    clamp = Clamp(bench=bench, range_a=100.0)
    assert clamp.read(500.0) == 100.0
    assert clamp.read(20.0) == pytest.approx(20.0, rel=0.05)
    assert clamp.held == 100.0
    assert Clamp(bench=bench, conductors=3).read(80.0) == 0.0
    assert Clamp(bench=bench, turns=2).read(40.0) == pytest.approx(80.0, rel=0.05)


@pytest.mark.parametrize(("state", "index"), [("dry", (2.0, 8.0)), ("wet", (1.0, 1.3)), ("dirty", (1.0, 2.0))])
def test_insulation_absorbs_as_its_state_lets_it(bench, state, index):
    tester = InsulationTester(bench=bench, state=state)
    assert index[0] - 0.1 <= tester.read(10) / tester.read(1) <= index[1]


def test_flashes_at_half_the_speed_look_still_too(bench):
    speed = bench.running()[1]
    still = Tachometer(bench=bench).flashes_that_look_still()
    assert still[:3] == pytest.approx((speed, speed / 2, speed / 3), abs=0.06)
    assert Tachometer(bench=bench).contact() == pytest.approx(speed, rel=0.003)


def test_sequence_and_status(bench):
    assert [PhaseSequence(backward=back, missing=gone).read() for back, gone in ((0, 0), (1, 0), (0, 1))] == [
        "123",
        "132",
        "",
    ]
    assert DriveStatus(bench=bench).read()["link V"] == 540


def test_the_adapter_reads_the_meter_and_knows_it_for_the_bench(bench, monkeypatch):
    with served(Meter(bench=bench)) as port:
        address = f"127.0.0.1:{port}"
        with pytest.raises(adapter.NoReading, match="not among the addresses"):
            adapter.read_meter(address)
        monkeypatch.setenv(adapter.ALLOWED, f" {address}, 192.0.2.1:502")
        found = adapter.read_meter(address)
        assert found.simulated
        assert found.values["U12"] == pytest.approx(400, rel=0.02)
        with pytest.raises(adapter.NoReading, match="order of its words"):
            adapter.read_meter(address, word_order="little")
        with pytest.raises(adapter.NoReading, match="no such registers"):
            adapter.read_meter(address, first=400)
    with pytest.raises(adapter.NoReading, match="Nothing answers"):
        adapter.read_meter(address)


def test_the_command_writes_captures(tmp_path):
    file = "src/vinegate/demo/skerry-sound.json"
    made = subprocess.run(
        [Path(sys.executable).with_name("vinegate"), "bench", file, "H-1", "--fault", "timer", "--captures", str(tmp_path)],
        capture_output=True, text=True, check=False,
    )  # fmt: skip
    assert made.returncode == 0, made.stderr
    assert sorted(one.name for one in tmp_path.iterdir()) == ["H-1-timer.cff", "H-1-timer.csv"]
