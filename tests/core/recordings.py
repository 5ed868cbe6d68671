"""Waves made by hand for tests of captures: three phases of known rms, angle and offset."""

import numpy as np

from vinegate.core.capture.recording import Channel, Recording
from vinegate.core.facts import read_circuit, read_job
from vinegate.core.record.found import plan_side
from vinegate.core.rules.sets import rule_set
from vinegate.demo import demo_job

THIRD = 2 * np.pi / 3


def start(
    *,
    hertz=60.0,
    rate=4000.0,
    seconds=3.0,
    at=0.4,
    amps=500.0,
    up=1.4,
    running=90.0,
    volts=460.0,
    angle=65.0,
    decay=0.0,
):
    """A start at `at`: `amps` for `up` seconds, then `running`; with `decay`, s, the currents carry a direct part."""
    time = np.arange(int(seconds * rate)) / rate
    turn = 2 * np.pi * hertz * time
    rms = np.where(time < at, 0.0, np.where(time < at + up, amps, running))
    channels = []
    for k, name in enumerate(("U12", "U23", "U31")):
        channels.append(Channel(name=name, phase="", unit="V", values=np.sqrt(2) * volts * np.sin(turn - k * THIRD)))
    for k, name in enumerate(("I1", "I2", "I3")):
        lag = np.pi / 6 + k * THIRD + np.radians(angle)
        wave = np.sqrt(2) * rms * np.sin(turn - lag)
        if decay:
            first = np.sqrt(2) * amps * np.sin(2 * np.pi * hertz * at - lag)
            wave = wave - np.where(time >= at, first * np.exp(-(time - at) / decay), 0.0)
        channels.append(Channel(name=name, phase="", unit="A", values=wave))
    return Recording(station="HAND", edition="", time_s=time, channels=tuple(channels), hertz=hertz)


def side(tag, *, plate=None, load=None, **start):
    """A demo circuit's plan, as records are held against it; with other facts of start, plate or load on wish."""
    for name in ("harrowmere-lock.json", "skerry-sound.json"):
        found = demo_job(name)
        if tag in dict(found.circuits):
            job, _ = read_job(found.facts, found.rules)
            facts = dict(found.circuits)[tag]
            circuit, _ = read_circuit(
                facts
                | {
                    "start": facts["start"] | start,
                    "plate": facts["plate"] | (plate or {}),
                    "load": facts["load"] | (load or {}),
                },
                found.rules,
            )
            return plan_side(job, circuit, rule_set(job.rules))
    raise KeyError(tag)
