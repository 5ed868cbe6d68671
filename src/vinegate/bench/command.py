"""`vinegate bench`: a meter on loopback for a demo circuit, and captures of its start with a fault put in."""

from __future__ import annotations

import signal
import threading
from datetime import UTC, datetime
from pathlib import Path

from vinegate.bench.instruments import Bench, Meter
from vinegate.bench.recorder import record
from vinegate.core.capture.writing import write_csv, write_single
from vinegate.core.facts import read_circuit, read_job
from vinegate.core.record.found import Against, plan_side
from vinegate.core.rules.sets import rule_set
from vinegate.exchange.circuit_file import JobFile


def side_of(job: JobFile, tag: str) -> Against:
    """The plan of one circuit of a file. Raises KeyError."""
    facts, _ = read_job(job.facts, job.rules)
    circuit, _ = read_circuit(dict(job.circuits)[tag], job.rules)
    return plan_side(facts, circuit, rule_set(job.rules))


def write_captures(plan: Against, tag: str, fault: str, into: Path, seed: int) -> list[Path]:
    """The start with that fault as COMTRADE and as CSV."""
    found = record(plan, fault, seed=seed)
    if found is None:
        return []
    names = (into / f"{tag}-{fault}.cff", into / f"{tag}-{fault}.csv")
    names[0].write_bytes(write_single(found, at=f"{datetime.now(UTC):%Y-%m-%d %H:%M:%S}"))
    names[1].write_text(write_csv(found), encoding="utf-8")
    return list(names)


def run_meter(plan: Against, seed: int, port: int) -> None:
    """Serve the meter until told to stop."""
    from vinegate.bench.modbus import served

    stop = threading.Event()
    for name in (signal.SIGINT, signal.SIGTERM):
        signal.signal(name, lambda *_: stop.set())
    with served(Meter(bench=Bench(plan, seed)), port) as at:
        print(
            f"A simulated three-phase meter answers at 127.0.0.1:{at}, Modbus TCP, unit 1, floats from register 0.",
            flush=True,
        )
        print(f"Allow the application to read it: VINEGATE_INSTRUMENTS=127.0.0.1:{at}", flush=True)
        stop.wait()
