"""The HTTP interface against its own description: requests made from it, odd ones too, answered as it says."""

import pytest
import schemathesis
from hypothesis import HealthCheck, given, settings
from schemathesis.checks import not_a_server_error
from schemathesis.specs.openapi.checks import (
    content_type_conformance,
    response_schema_conformance,
    status_code_conformance,
)

from tests.web.test_api import job, token  # noqa: F401 - a fixture
from vinegate.web.api.openapi import document

CHECKS = [not_a_server_error, status_code_conformance, content_type_conformance, response_schema_conformance]
OPERATIONS = [one.ok().label for one in schemathesis.openapi.from_dict(document()).get_all_operations()]


@pytest.mark.parametrize("label", OPERATIONS)
def test_every_operation_answers_as_it_is_described(label, app, job):  # noqa: F811
    """Two of three times on a job that there is."""
    method, _, path = label.partition(" ")
    headers = token("ines") | {"Accept-Encoding": "identity"}
    operation = schemathesis.openapi.from_wsgi("/api/v1/openapi.json", app)[path][method]

    @given(case=operation.as_strategy())
    @settings(max_examples=20, deadline=None, database=None, derandomize=True, suppress_health_check=list(HealthCheck))
    def answered(case):
        if case.path_parameters.get("job_id", 0) % 3:
            case.path_parameters["job_id"] = job
        response = case.call(headers=headers)
        case.validate_response(response, checks=CHECKS)

    answered()
