"""Random and extreme facts as they might be typed: any field, any magnitude its reader takes, and rubbish."""

from __future__ import annotations

import math
from functools import cache
from random import Random
from typing import Any

from vinegate.core.facts import JOB_STAGES, LISTED, RuleSetName, circuit_parts
from vinegate.core.field import Fact
from vinegate.core.plan import Plan, plan_raw
from vinegate.demo import demo_job
from vinegate.exchange.circuit_file import JobFile

RUBBISH = ("", " ", "nan", "inf", "-inf", "1e999", "0", "-1", "–", "460V V", "½", "10 Mvar", "1/0", "null", "3,5,7")
WORDS = {
    "plate.volts": ("460", "230/460", "400Δ/690Y", "230Δ/400Y", "115/230", "208-230/460", "4160", "0.4 kV"),
    "plate.full_load_current": ("92", "184/92", "55/55", "0.5", "3800", "81/47"),
    "wiring.size": ("14 AWG", "1/0 AWG", "500 kcmil", "1.5 mm²", "35 mm²", "240 mm²"),
    "supply.volts": ("480Y/277 V", "208Y/120 V", "400/230 V", "240 V", "690 V"),
    "supply.fault_level": ("14 kA", "150 MVA", "0.2 kA", "2000 MVA"),
    "machine.curve": (
        "speed_rpm, torque_nm, current_a\n0, 400, 560\n900, 500, 480\n1185, 0, 30",
        "a,b\n1,nan",
        "x",
        "slip, T %, I %\n0.02, 100, 100\n0.1, 240, 420\n0.2, 220, 500\n0.5, 160, 600\n1, 150, 650",
    ),
    "drive.points": ("100 %; ; 1900\n60 %; 40 %; 3400", "30 Hz; 4 kW", "1180 rpm; 90 N·m; 200", "150", "60 %; 1e9"),
    "drive.skip": ("1180, 1720 rpm", "x"),
    "load.points": (
        "0, 20\n50, 40\n100, 100",
        "rpm; N·m\n0; 40\n1480; 280",
        "%, lb-ft\n0, 9\n100, 0",
        "0, nan\n100, 1",
        "0, 0",
    ),
}


def typed(random: Random, path: str, fact: Fact) -> str:
    """Something for one field: mostly what its reader takes, now and then not."""
    if random.random() < 0.06:
        return random.choice(RUBBISH)
    if path in WORDS:
        return random.choice(WORDS[path])
    if fact.listed and random.random() < 0.8:
        return f"{fact.listed}_{random.randint(1, 3)}"
    if fact.choices:
        return random.choice(fact.choices)[0]
    quantity = fact.quantity
    if quantity is None:
        return fact.example or random.choice(("1", "T3", "F", "text"))
    low, high = max(quantity.least, quantity.most * 1e-9, 1e-9), quantity.most
    value = random.choice((low, high, math.exp(random.uniform(math.log(low), math.log(high)))))
    scale = {"percent": 100.0}.get(quantity.bare, 1.0) if quantity.unit == "one" else 1.0
    return f"{value * scale:.6g}{'' if quantity.unit == 'one' else ' ' + quantity.shown}"


def _of(random: Random, stages: Any, base: dict[str, Any], changes: int) -> dict[str, Any]:
    found = {stage: dict(fields) for stage, fields in base.items()}
    paths = [(stage, name, fact) for stage, model in stages.items() for name, fact in model.fields().items()]
    for stage, name, fact in random.sample(paths, changes):
        if random.random() < 0.3:
            found.get(stage, {}).pop(name, None)
        else:
            found.setdefault(stage, {})[name] = typed(random, f"{stage}.{name}", fact)
    return found


_JOB = {**JOB_STAGES, **{f"{kind}_{n}": model for kind, model in LISTED.items() for n in (1, 2, 3)}}


def change_one(random: Random, job: dict[str, Any], facts: dict[str, Any]) -> tuple[dict[str, Any], dict[str, Any]]:
    """The same with one more field changed, of the job or of the circuit."""
    if random.random() < 0.4:
        return _of(random, _JOB, job, 1), facts
    return job, _of(random, circuit_parts(), facts, 1)


def jobs() -> tuple[JobFile, ...]:
    return demo_job("harrowmere-lock.json"), demo_job("skerry-sound.json")


@cache
def sampled() -> tuple[Plan, ...]:
    """The plans of `SEEDS`, made once."""
    bases = jobs()
    return tuple(plan_raw(*circuit(seed, bases)) for seed in SEEDS)


def circuit(seed: int, bases: tuple[JobFile, ...]) -> tuple[RuleSetName, dict[str, Any], dict[str, Any]]:
    """A circuit of the demo with a few to very many of its facts changed, or one made of nothing else."""
    random = Random(seed)
    job = random.choice(bases)
    facts = random.choice(job.circuits)[1] if random.random() < 0.85 else {}
    rules = job.rules if random.random() < 0.8 else random.choice(list(RuleSetName))
    few = random.choice((1, 2, 4, 8, 20, 60))
    return rules, _of(random, _JOB, job.facts, min(few, 30)), _of(random, circuit_parts(), facts, few)


SEEDS = (
    540, 728, 738, 1051, 62, 859, 87, 644, 1093, 593, 820, 870, 152, 1279, 102, 142, 906, 223, 558, 14, 278, 461,
    893, 260, 448, 475, 513, 652, 912, 1115, 1129, 1208, 1245, 0, 1, 9, 16, 39, 64, 132, 173, 202, 276, 383, 560,
    581, 619, 797, 1004, 1042, 1114, 1296, 1394,
)  # fmt: skip
"""Random circuits that between them show every formula, and every gate with a margin, of fourteen hundred of them."""
