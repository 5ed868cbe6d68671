"""By which rules a row was planned: no verdict that is kept outlives the rule that made it."""

from __future__ import annotations

from functools import cache
from hashlib import sha256
from pathlib import Path

from vinegate import __version__, core


@cache
def planned_by(root: Path = Path(core.__file__).parent) -> str:
    """The program's version and a mark of all that it plans by: every module and table of `root`."""
    found = sha256()
    for path in sorted(root.rglob("*")):
        if path.is_file() and path.suffix != ".pyc":
            found.update(f"{path.relative_to(root)}\0".encode())
            found.update(path.read_bytes())
    return f"{__version__}+{found.hexdigest()[:16]}"
