"""Errors as problem details (RFC 9457), with the field that is wrong and what to enter."""

from collections.abc import Sequence
from http import HTTPStatus
from typing import Any

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from pydantic import BaseModel
from starlette.exceptions import HTTPException
from starlette.responses import Response

from ..core.check import CheckRefused, FieldProblem, field_problems
from ..desks.desk import Conflict, NotThere, Refused


class FieldError(BaseModel):
    """A fault and the path of its field."""

    path: str
    message: str


class Problem(BaseModel):
    """RFC 9457 problem details; `errors` name the fields."""

    type: str = "about:blank"
    title: str
    status: int
    detail: str
    errors: list[FieldError] = []
    wait_seconds: int | None = None


class ProblemResponse(JSONResponse):
    """A problem on the wire."""

    media_type = "application/problem+json"


def problem(
    status: int,
    detail: str,
    errors: Sequence[FieldProblem] = (),
    wait_seconds: int | None = None,
) -> ProblemResponse:
    """A problem response."""
    body = Problem(
        title=HTTPStatus(status).phrase,
        status=status,
        detail=detail,
        errors=[FieldError(path=fault.path, message=fault.message) for fault in errors],
        wait_seconds=wait_seconds,
    )
    headers = {"Retry-After": str(wait_seconds)} if wait_seconds else None
    return ProblemResponse(body.model_dump(), status_code=status, headers=headers)


PROBLEMS: dict[int | str, dict[str, Any]] = {
    422: {"model": Problem, "content": {"application/problem+json": {}}, "description": "A field is wrong"}
}


def install(app: FastAPI) -> None:
    """Answer every error of the desks and of the framework as a problem."""

    @app.exception_handler(RequestValidationError)
    async def _invalid(_: Request, error: RequestValidationError) -> Response:
        inside = [{**fault, "loc": fault["loc"][1:]} for fault in error.errors()]
        return problem(422, "Something typed cannot be right", field_problems(inside))

    @app.exception_handler(CheckRefused)
    async def _refused_check(_: Request, error: CheckRefused) -> Response:
        return problem(422, "The check cannot be right", error.problems)

    @app.exception_handler(Refused)
    async def _refused(_: Request, error: Refused) -> Response:
        return problem(422, str(error), error.problems)

    @app.exception_handler(NotThere)
    async def _not_there(_: Request, error: NotThere) -> Response:
        return problem(404, str(error))

    @app.exception_handler(Conflict)
    async def _conflict(_: Request, error: Conflict) -> Response:
        return problem(409, str(error))

    @app.exception_handler(PermissionError)
    async def _not_allowed(_: Request, error: PermissionError) -> Response:
        return problem(403, str(error))

    @app.exception_handler(HTTPException)
    async def _http(_: Request, error: HTTPException) -> Response:
        return problem(error.status_code, str(error.detail))
