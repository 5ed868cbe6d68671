"""What a recorder gave: channels over one time, holes as NaN."""

from __future__ import annotations

import re
from dataclasses import field
from typing import Final

import numpy as np

from vinegate.core.arrays import Array
from vinegate.core.records import dataclass

MOST_SAMPLES: Final = 1_000_000
MOST_CHANNELS: Final = 256
MOST_VALUES: Final = 8_000_000
SIMULATED: Final = "SIMULATED BENCH"
"""The station's name in every file that the bench writes: by it a file is known to be no measurement."""


class CaptureError(ValueError):
    """A file that cannot be read; `str()` names what is wrong, with its line and column where it has them."""

    def __init__(self, text: str, *, part: str = "", line: int = 0, column: int = 0) -> None:
        where = ", ".join(
            one for one in (part, f"line {line}" if line else "", f"column {column}" if column else "") if one
        )
        super().__init__(f"{where}: {text}" if where else text)


@dataclass(frozen=True, slots=True, kw_only=True)
class Channel:
    """One channel in base units (V, A, W, rpm), skew taken out of its time; `ask_ratio` where its file does not say."""

    name: str
    phase: str
    unit: str
    values: Array
    skew_s: float = 0.0
    ask_ratio: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Recording:
    """Channels over `time_s`, which begins at nought. `digital` are status channels as 0 and 1."""

    station: str
    edition: str
    time_s: Array
    channels: tuple[Channel, ...]
    digital: tuple[Channel, ...] = ()
    hertz: float | None = None
    started: str = ""
    trigger_s: float | None = None
    notes: tuple[str, ...] = field(default=())

    @property
    def simulated(self) -> bool:
        return SIMULATED in self.station.upper()

    @property
    def rate_hz(self) -> float:
        """Samples a second, by the middle of the steps; 0 for fewer than two samples."""
        if self.time_s.size < 2:
            return 0.0
        step = float(np.median(np.diff(self.time_s[:100_000])))
        return 1 / step if step > 0 else 0.0


def bounded(samples: int, channels: int) -> None:
    """Refuse before anything is allocated. Raises CaptureError."""
    if channels > MOST_CHANNELS:
        raise CaptureError(f"{channels} channels: at most {MOST_CHANNELS} are read.")
    if samples > MOST_SAMPLES:
        raise CaptureError(f"{samples:,} samples: at most {MOST_SAMPLES:,} are read.")
    if samples * max(channels, 1) > MOST_VALUES:
        raise CaptureError(f"{samples:,} samples of {channels} channels: at most {MOST_VALUES:,} values are read.")


_TIMES: Final = {"k": 1e3, "K": 1e3, "M": 1e6, "m": 1e-3, "u": 1e-6, "µ": 1e-6}
_BASES: Final = {"a": "A", "v": "V", "w": "W", "amp": "A", "amps": "A", "volt": "V", "volts": "V", "rpm": "rpm",
                 "ampere": "A", "amperes": "A", "watt": "W", "r/min": "rpm", "rev/min": "rpm", "u/min": "rpm",
                 "min-1": "rpm", "min^-1": "rpm", "min⁻¹": "rpm", "1/min": "rpm", "hz": "Hz", "%": "%"}  # fmt: skip


def base_unit(text: str) -> tuple[str, float]:
    """A unit as files write it: its base, and by what a value is to be multiplied.

    >>> base_unit("kV"), base_unit("Arms"), base_unit("mA"), base_unit("rpm"), base_unit("bar"), base_unit("KA rms")
    (('V', 1000.0), ('A', 1.0), ('A', 0.001), ('rpm', 1.0), ('bar', 1.0), ('A', 1000.0))
    """
    plain = re.sub(r"\s*rms$", "", text.strip(), flags=re.IGNORECASE)
    if plain.lower() in _BASES:
        return _BASES[plain.lower()], 1.0
    if plain[:1] in _TIMES and plain[1:].lower() in ("a", "v", "w"):
        return plain[1:].upper(), _TIMES[plain[0]]
    return plain, 1.0
