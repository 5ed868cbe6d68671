"""What every course over speed or time is held in."""

from __future__ import annotations

from typing import Any

import numpy as np
import numpy.typing as npt

Array = npt.NDArray[np.floating[Any]]
