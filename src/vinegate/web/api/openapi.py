"""The interface described in OpenAPI 3.1: shapes from the models, so that they are said once."""

from __future__ import annotations

from functools import cache
from typing import Any, Final

from vinegate import __version__
from vinegate.core.facts import JOB_STAGES, RuleSetName, circuit_parts
from vinegate.core.record.facts import FORMS
from vinegate.exchange.circuit_file import TAG

_TEXT: Final = {"type": "string"}
_COUNT: Final = {"type": "integer", "minimum": 0, "maximum": 999_999_999}
_JOB: Final = {"name": "job_id", "in": "path", "required": True, "schema": _COUNT}
_TAG: Final = {
    "name": "tag",
    "in": "path",
    "required": True,
    "schema": {"type": "string", "pattern": f"^{TAG.pattern}$"},
}
_NUMBER: Final = {"name": "number", "in": "path", "required": True, "schema": _COUNT}


@cache
def document() -> dict[str, Any]:
    """The whole description."""
    return {
        "openapi": "3.1.0",
        "info": {
            "title": "Vine Gate",
            "version": __version__,
            "description": "Plans a motor's supply circuit. Planning "
            "aid, not an approval: local code, the authority having jurisdiction, the maker's data and a licensed or "
            "competent person decide.",
        },
        "servers": [{"url": "/api/v1"}],
        "security": [{"token": []}],
        "components": {
            "securitySchemes": {"token": {"type": "http", "scheme": "bearer"}},
            "schemas": {
                "Problem": _problem(),
                "Facts": _facts([*circuit_parts()], True),
                "JobFacts": _facts([*JOB_STAGES], False),
                "Circuit": _object({"tag": _TEXT, "facts": {"type": "object"}, "version": _COUNT}),
            },
        },
        "paths": _paths(),
    }


def _object(properties: dict[str, Any], required: list[str] | None = None) -> dict[str, Any]:
    return {"type": "object", "properties": properties, "required": required if required is not None else [*properties]}


def _problem() -> dict[str, Any]:
    errors = {"type": "array", "items": _object({"path": _TEXT, "message": _TEXT})}
    shape = {"type": _TEXT, "title": _TEXT, "status": _COUNT, "detail": _TEXT, "errors": errors}
    return _object(shape, ["type", "title", "status"])


def _facts(parts: list[str], circuit: bool) -> dict[str, Any]:
    """Facts as typed: texts with or without units, or numbers."""
    models = circuit_parts() if circuit else JOB_STAGES
    value = {"type": ["string", "number", "null"], "maxLength": 5000}
    shapes = {
        part: {
            "type": "object",
            "properties": {name: {**value, "title": fact.label} for name, fact in models[part].fields().items()},
        }
        for part in parts
        if part not in FORMS
    }
    return {"type": "object", "properties": shapes}


def _answers(shape: dict[str, Any], *codes: int, status: int = 200) -> dict[str, Any]:
    found = {str(status): {"description": "Done", "content": {"application/json": {"schema": shape}}}}
    problem = {"application/problem+json": {"schema": {"$ref": "#/components/schemas/Problem"}}}
    for code in (*codes, 401, 503):
        found[str(code)] = {"description": _WORDS[code], "content": problem}
    return found


_WORDS: Final = {
    400: "No JSON that can be read",
    401: "A token is asked",
    403: "Not allowed",
    404: "Not here",
    409: "Taken by another",
    412: "Changed since",
    415: "JSON is asked",
    422: "Cannot be read, with paths",
    503: "Not reachable for the moment",
}


def _sent(shape: dict[str, Any]) -> dict[str, Any]:
    return {"required": True, "content": {"application/json": {"schema": shape}}}


_ROWS: Final[dict[str, Any]] = {"type": "object"}
_CIRCUIT: Final = {"$ref": "#/components/schemas/Circuit"}
_PLAN: Final = {"type": "object", "description": "See docs/plan.schema.json."}
_ONE: Final = [_JOB, _TAG]
_KEY: Final = {
    "name": "Idempotency-Key",
    "in": "header",
    "schema": {"type": "string", "maxLength": 80},
    "description": "The same request with the same key is worked once; its answer is given again for seven days.",
}


def _paths() -> dict[str, Any]:
    return _of_jobs() | _of_circuits() | _of_what_is_kept()


def _of_jobs() -> dict[str, Any]:
    asked = _object(
        {
            "rules": {"enum": [one.value for one in RuleSetName]},
            "job": {"$ref": "#/components/schemas/JobFacts"},
            "circuit": {"$ref": "#/components/schemas/Facts"},
        },
        ["rules"],
    ) | {"additionalProperties": False}
    new = _object(
        {
            "name": {"type": "string", "minLength": 1, "maxLength": 120},
            "rules": {"enum": [one.value for one in RuleSetName]},
            "facts": {"$ref": "#/components/schemas/JobFacts"},
        },
        ["name", "rules"],
    ) | {"additionalProperties": False}
    made = {"201": _answers(_ROWS, status=201)["201"]} | _answers(_ROWS, 400, 403, 409, 415, 422)
    del made["200"]
    return {
        "/plan": {"post": {"summary": "Plan without keeping", "requestBody": _sent(asked),
                           "responses": _answers(_PLAN, 400, 415, 422)}},
        "/jobs": {
            "get": {"summary": "Your jobs", "responses": _answers(_ROWS)},
            "post": {"summary": "A new job", "parameters": [_KEY], "requestBody": _sent(new), "responses": made},
        },
        "/jobs/{job_id}": {
            "get": {"summary": "A job's facts", "parameters": [_JOB], "responses": _answers(_ROWS, 404)}
        },
        "/jobs/{job_id}/file": {
            "get": {"summary": "The job in the open format", "parameters": [_JOB], "responses": _answers(_ROWS, 404)}
        },
        "/jobs/{job_id}/schedule": {
            "get": {"summary": "A row a circuit", "parameters": [_JOB], "responses": _answers(_ROWS, 404)}
        },
    }  # fmt: skip


def _of_circuits() -> dict[str, Any]:
    many = [
        _JOB,
        {"name": "after", "in": "query", "schema": _TEXT},
        {"name": "limit", "in": "query", "schema": {"type": "integer", "minimum": 1, "maximum": 100}},
    ]
    new = _object(
        {"tag": {"type": "string", "pattern": f"^{TAG.pattern}$"}, "facts": {"$ref": "#/components/schemas/Facts"}},
        ["tag"],
    )
    changes = {
        "type": "object",
        "additionalProperties": {"type": ["string", "number", "null"]},
        "description": "Facts by path, as plate.power; null takes one away.",
    }
    made = _answers(_CIRCUIT, 400, 403, 404, 409, 415, 422) | {"201": _answers(_CIRCUIT, status=201)["201"]}
    return {
        "/jobs/{job_id}/circuits": {
            "get": {"summary": "Its circuits, by pages", "parameters": many, "responses": _answers(_ROWS, 404, 422)},
            "post": {"summary": "A new circuit", "parameters": [_JOB, _KEY], "requestBody": _sent(new),
                     "responses": made},
        },
        "/jobs/{job_id}/circuits/{tag}": {
            "get": {"summary": "A circuit's facts", "parameters": _ONE, "responses": _answers(_CIRCUIT, 404)},
            "patch": {
                "summary": "Change facts by path",
                "parameters": [*_ONE, {"name": "If-Match", "in": "header", "schema": _TEXT}],
                "requestBody": _sent(changes),
                "responses": _answers(_CIRCUIT, 400, 403, 404, 412, 415, 422),
            },
            "delete": {"summary": "Taken away, to be brought back on the schedule", "parameters": _ONE,
                       "responses": _answers(_ROWS, 403, 404)},
        },
    }  # fmt: skip


def _of_what_is_kept() -> dict[str, Any]:
    return {
        "/jobs/{job_id}/circuits/{tag}/plan": {
            "get": {"summary": "The draft, planned", "parameters": _ONE, "responses": _answers(_PLAN, 404)}
        },
        "/jobs/{job_id}/circuits/{tag}/revisions": {
            "get": {"summary": "Issued plans", "parameters": _ONE, "responses": _answers(_ROWS, 404)}
        },
        "/jobs/{job_id}/circuits/{tag}/revisions/{number}": {
            "get": {"summary": "One issued plan", "parameters": [*_ONE, _NUMBER], "responses": _answers(_ROWS, 404)}
        },
        "/jobs/{job_id}/circuits/{tag}/records": {
            "get": {"summary": "What was measured", "parameters": _ONE, "responses": _answers(_ROWS, 404)}
        },
    }
