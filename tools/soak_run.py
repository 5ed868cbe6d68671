"""Many changes without pause, and the memory of the processes that took them: `tools/soak [CHANGES] [WRITERS]`.

Exit 1 where a change that was acknowledged is not found, or where memory grows by more than a tenth after the first
quarter: by then the plans that are kept are all there.
"""

from __future__ import annotations

import sys
import tempfile
import time
from pathlib import Path
from typing import Final

from tools.endure_run import Table, journal_of
from tools.load_run import filled, signed_in
from tools.stand import Application, application
from tools.writers import writing

_USUAL: Final = ("20000", "8")
_GROWS: Final = 1.10
_LOOK_S: Final = 0.5
_QUARTERS: Final = 4


def memory_mb(app: Application) -> float:
    """What the workers hold together, resident."""
    return sum(int(Path(f"/proc/{pid}/statm").read_text().split()[1]) * 4096 / 1e6 for pid in app.workers)


def main(arguments: list[str]) -> int:
    changes, people = (int(text) for text in (*arguments, *_USUAL[len(arguments) :])[:2])
    table = Table()
    with tempfile.TemporaryDirectory(prefix="vinegate-soak-") as folder:
        home = Path(folder)
        home.chmod(0o755)
        with application(home / "soak") as app:
            ines = signed_in(app.port)
            job = filled(ines, people)
            writers = writing(app.port, ines.cookie, [f"{job}/L-{at}/start" for at in range(people)], "soak ")
            held, begun = [], time.monotonic()
            for quarter in range(1, _QUARTERS + 1):
                while sum(len(one.kept.texts) for one in writers) < changes * quarter / _QUARTERS:
                    time.sleep(_LOOK_S)
                held.append(memory_mb(app))
                table.row(
                    f"after {changes * quarter // _QUARTERS} changes",
                    f"{held[-1]:.0f} MB in {len(app.workers)} workers",
                )
            took = time.monotonic() - begun
            told = [text for one in writers for text in one.end().texts]
            found = set(journal_of(app))
            lost = sum(text not in found for text in told)
            table.row(
                "changes", f"{len(told)} acknowledged, {lost} lost, {len(told) / took:.0f} a second", well=not lost
            )
            table.row(
                "memory after the first quarter",
                f"{100 * (held[-1] / held[0] - 1):+.1f} %",
                well=held[-1] < _GROWS * held[0],
            )
    return int(table.wrong > 0)


if __name__ == "__main__":
    raise SystemExit(main(sys.argv[1:]))
