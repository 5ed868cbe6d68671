"""The open circuit format: a job with its circuits as JSON, facts as people type them. See docs/format.md."""

from __future__ import annotations

import json
import re
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from functools import cache
from typing import Any

from pydantic import TypeAdapter

from vinegate.core.facts import (
    ENTERED,
    JOB_STAGES,
    LISTED,
    MOST_LISTED,
    RuleSetName,
    circuit_parts,
    keyed,
    kind_of,
    listed_keys,
)
from vinegate.core.plan import Plan
from vinegate.exchange.plan_versions import upgraded

FORMAT = "vinegate/2"
OLDER = ("vinegate/1",)
"""Formats that are read for ever: in the first a job has at most four boards and areas, each under its own key."""
LISTS = {"boards": "board", "areas": "area"}
"""Lists of a job's file to the kind of part in them."""
TAG = re.compile(r"[A-Za-z0-9][A-Za-z0-9._-]{0,23}")
TAG_RULE = "A tag has 1 to 24 letters, digits, points, hyphens or low lines: P-11."
Raw = dict[str, Any]
MOST_CIRCUITS = 3000


class UnreadableFile(ValueError):
    """The file is not in the format; `str()` says where and why."""


@dataclass(frozen=True, slots=True, kw_only=True)
class JobFile:
    """A job as the file gives it: facts as typed."""

    name: str
    rules: RuleSetName
    facts: Raw
    circuits: tuple[tuple[str, Raw], ...]


def read(text: str) -> JobFile:
    """Read the format. Raises UnreadableFile with the line or the path of what is wrong.

    Only the structure is checked here: a fact that cannot be read is the plan's to report.
    """
    document = _document(text)
    _object(document, "the file")
    if document.get("format") not in (FORMAT, *OLDER):
        readable = " and ".join(repr(one) for one in (*OLDER, FORMAT))
        raise UnreadableFile(f"format: it says {document.get('format')!r}; this program reads {readable}")
    _known(document, {"format", "job", "circuits"}, "")
    job = _object(document.get("job"), "job")
    if document["format"] == FORMAT:
        job = _listed(job)
    numbered = {key for key in job if kind_of(key)}
    _known(job, {"name", "rules", "sources", *JOB_STAGES, *numbered}, "job.")
    rules = job.get("rules")
    if rules not in list(RuleSetName):
        raise UnreadableFile(f"job.rules: {rules!r} is none of {', '.join(RuleSetName)}")
    circuits = document.get("circuits")
    if not isinstance(circuits, list):
        raise UnreadableFile("circuits: a list of circuits is expected")
    read_circuits = tuple(_circuit(item, f"circuits[{index}]") for index, item in enumerate(circuits))
    if len(circuits) > MOST_CIRCUITS:
        raise UnreadableFile(f"circuits: {len(circuits)} are more than {MOST_CIRCUITS}")
    _each_tag_once(read_circuits)
    return JobFile(
        name=str(job.get("name") or "Unnamed job"),
        rules=RuleSetName(rules),
        facts=_stages(job, [*JOB_STAGES, *(key for kind in LISTED for key in listed_keys(job, kind))], "job"),
        circuits=read_circuits,
    )


def _document(text: str) -> Any:
    """What the text holds. Raises UnreadableFile."""
    try:
        document = json.loads(text)
    except json.JSONDecodeError as error:
        raise UnreadableFile(f"line {error.lineno}, column {error.colno}: not JSON: {error.msg}") from None
    except RecursionError:
        raise UnreadableFile("it is nested deeper than any job is") from None
    except ValueError:
        raise UnreadableFile("a number in it has more digits than any fact has") from None
    try:
        json.dumps(document, ensure_ascii=False).encode()
    except UnicodeEncodeError:
        raise UnreadableFile("it holds half of a character (a lone surrogate), which no text can keep") from None
    return document


def _each_tag_once(circuits: tuple[tuple[str, Raw], ...]) -> None:
    seen: set[str] = set()
    for tag, _ in circuits:
        if tag.casefold() in seen:
            raise UnreadableFile(f"circuits: the tag {tag} stands twice")
        seen.add(tag.casefold())


def _listed(job: Raw) -> Raw:
    """A job's lists as parts under their keys, as the first format had them."""
    _known(job, {"name", "rules", "sources", *JOB_STAGES, *LISTS}, "job.")
    found = {key: value for key, value in job.items() if key not in LISTS}
    for name, kind in LISTS.items():
        parts = job.get(name, [])
        if not isinstance(parts, list):
            raise UnreadableFile(f"job.{name}: a list is expected")
        for index, item in enumerate(parts):
            part = dict(_object(item, f"job.{name}[{index}]"))
            key = part.pop("key", None)
            if not isinstance(key, str) or kind_of(key) != kind:
                raise UnreadableFile(f"job.{name}[{index}].key: {kind}_1 to {kind}_{MOST_LISTED} is expected")
            if key in found:
                raise UnreadableFile(f"job.{name}: {key} stands twice")
            found[key] = part
    return found


def _circuit(item: Any, place: str) -> tuple[str, Raw]:
    circuit = _object(item, place)
    _known(circuit, {"tag", "sources", *circuit_parts()}, f"{place}.")
    tag = circuit.get("tag")
    if not isinstance(tag, str) or not TAG.fullmatch(tag):
        raise UnreadableFile(f"{place}.tag: {TAG_RULE}")
    return tag, _stages(circuit, circuit_parts(), place)


def _stages(item: Raw, stages: Iterable[str], place: str) -> Raw:
    facts: Raw = {}
    for key in (*stages, "sources"):
        if key not in item:
            continue
        fields = _object(item[key], f"{place}.{key}")
        for name, value in fields.items():
            if value is not None and (isinstance(value, bool) or not isinstance(value, str | int | float)):
                raise UnreadableFile(f"{place}.{key}.{name}: text or a number is expected")
        facts[key] = {name: keyed(f"{key}.{name}", str(value)) for name, value in fields.items() if value is not None}
    return facts


def _object(value: Any, place: str) -> Raw:
    if not isinstance(value, dict):
        raise UnreadableFile(f"{place}: an object is expected")
    return value


def _known(item: Raw, known: set[str], place: str) -> None:
    for key in item.keys() - known:
        raise UnreadableFile(f"{place}{key}: not a part of the format; known here: {', '.join(sorted(known))}")


def write(job: JobFile) -> str:
    """The format's text of a job. `read(write(job)) == job`."""
    document = {
        "format": FORMAT,
        "job": {"name": job.name, "rules": job.rules.value, **_as_lists(job.facts)},
        "circuits": [{"tag": tag, **facts} for tag, facts in job.circuits],
    }
    return json.dumps(document, ensure_ascii=False, indent=2) + "\n"


def _as_lists(facts: Raw) -> Raw:
    found = {key: value for key, value in facts.items() if kind_of(key) is None}
    for name, kind in LISTS.items():
        if keys := listed_keys(facts, kind):
            found[name] = [{"key": key, **facts[key]} for key in keys]
    return found


@cache
def _plan_adapter() -> TypeAdapter[Plan]:
    return TypeAdapter(Plan)


def plan_document(plan: Plan) -> Raw:
    """A plan as plain JSON values, the shape of docs/plan.schema.json."""
    document: Raw = _plan_adapter().dump_python(plan, mode="json")
    return document


def plan_from_document(document: Raw) -> Plan:
    """The plan that `plan_document` wrote, in this version or an older one."""
    return _plan_adapter().validate_python(upgraded(document))


def circuit_schema() -> Raw:
    """The JSON Schema of the circuit format, from the facts' models."""
    sources = {
        "type": "object",
        "description": "Where a fact came from, by path; a plate's facts are stamped unless this says otherwise.",
        "additionalProperties": {"enum": [provenance.value for provenance in ENTERED]},
    }

    def stages(models: Mapping[str, Any]) -> Raw:
        shapes = {key: model.model_json_schema(by_alias=True) for key, model in models.items()}
        return {**shapes, "sources": sources}

    def shape(properties: Raw, required: list[str]) -> Raw:
        return {"type": "object", "properties": properties, "required": required, "additionalProperties": False}

    rules = {"enum": [name.value for name in RuleSetName]}
    lists = {name: {"type": "array", "items": _numbered(kind)} for name, kind in LISTS.items()}
    job = shape({"name": {"type": "string"}, "rules": rules, **stages(JOB_STAGES), **lists}, ["rules"])
    circuit = shape({"tag": {"type": "string", "pattern": f"^{TAG.pattern}$"}, **stages(circuit_parts())}, ["tag"])
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "Vine Gate job with its circuits",
        **shape(
            {"format": {"const": FORMAT}, "job": job, "circuits": {"type": "array", "items": circuit}},
            ["format", "job", "circuits"],
        ),
    }


def _numbered(kind: str) -> Raw:
    """The shape of one of a job's boards or areas: its facts, and the key that circuits name it by."""
    found: Raw = LISTED[kind].model_json_schema(by_alias=True)
    key = {"type": "string", "pattern": f"^{kind}_[1-9][0-9]{{0,2}}$"}
    return found | {"properties": {"key": key, **found["properties"]}, "required": ["key"]}


def plan_schema() -> Raw:
    """The JSON Schema of a plan."""
    head = {"$schema": "https://json-schema.org/draft/2020-12/schema"}
    return head | _plan_adapter().json_schema(mode="serialization")
