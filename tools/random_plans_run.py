"""Plans random and extreme circuits: nothing may raise, and every plan must be strict JSON, without inf or NaN."""

from __future__ import annotations

import json
import sys
import traceback
from concurrent.futures import ProcessPoolExecutor

from tests.core.random_facts import circuit, jobs

from vinegate.core.plan import Beside, plan_raw
from vinegate.core.summary import summarise
from vinegate.exchange.circuit_file import plan_document

_BASES = jobs()


def wrong(seed: int) -> str:
    """Empty where the plan of this seed is sound; else what is wrong with it."""
    rules, job, facts = circuit(seed, _BASES)
    try:
        plan = plan_raw(rules, job, facts, beside=Beside.ALL if seed % 3 == 0 else Beside.DOCUMENT)
        json.dumps([plan_document(plan), summarise(plan)], allow_nan=False)
    except Exception:  # whatever it is, it is what is looked for
        return f"seed {seed}\n{traceback.format_exc(limit=-4)}"
    return ""


def main() -> int:
    count, first = (int(text) for text in (sys.argv[1:] + ["1000", "1"][len(sys.argv) - 1 :])[:2])
    with ProcessPoolExecutor() as pool:
        found = [text for text in pool.map(wrong, range(first, first + count), chunksize=50) if text]
    for text in found[:20]:
        print(text)
    print(f"{count} plans from seed {first}: {len(found)} wrong")
    return 1 if found else 0


if __name__ == "__main__":
    sys.exit(main())
