"""How a start at full voltage, and in wye, stands against usual dip limits, before anybody has set one."""

from __future__ import annotations

from vinegate.core.grade import Gate, Verdict, doubted, worst_of
from vinegate.core.plan import Plan
from vinegate.core.records import dataclass
from vinegate.core.rules.dialect import gate_in
from vinegate.core.rules.sets import rule_set
from vinegate.core.start.compare import LIMITS_PCT
from vinegate.core.start.dip import StartPoint
from vinegate.core.start.judge_first import at_first_in_wye, at_limit
from vinegate.core.start.stage import START, StartStudy


@dataclass(frozen=True, slots=True, kw_only=True)
class UsualDip:
    """One limit, in per cent, and how both ways stand to it; `wye` is None where the plate does not allow it.

    `checks` are the sentences of what is to check, with what decides it.
    """

    limit_pct: float
    full: Verdict
    wye: Verdict | None
    checks: tuple[str, ...]


def usual_dips(plan: Plan) -> tuple[UsualDip, ...]:
    """By the first moment, at both ends of what is behind it; none while that is not known, or in an issued plan."""
    study = plan.of(START)
    if study is None or study.moment.full is None or study.moment.sag is None:
        return ()
    return tuple(_at(limit, plan, study, study.moment.full) for limit in LIMITS_PCT)


def _at(limit: float, plan: Plan, study: StartStudy, point: StartPoint) -> UsualDip:
    words = rule_set(plan.rules).words

    def judged(method: str, point: StartPoint) -> Gate:
        gate = at_limit(study.moment, point, method, limit)
        return gate_in(gate if plan.doubt is None else doubted(gate, plan.doubt), plan.rules)

    full, wye = judged(words.across_the_line, point), None
    gates = [full]
    if study.moment.wye is not None:
        wye = at_first_in_wye(judged(f"{words.wye.capitalize()}-delta", study.moment.wye), full)
        gates += [wye, gate_in(study.eligible, plan.rules)]
    return UsualDip(
        limit_pct=limit,
        full=full.verdict,
        wye=None if wye is None else worst_of([study.eligible.verdict, wye.verdict]),
        checks=tuple(gate.sentence for gate in gates if gate.verdict is Verdict.CHECK),
    )
