"""Errors as problem details (RFC 9457), with the field that is wrong and what to enter."""

from collections.abc import Sequence
from http import HTTPStatus
from typing import Any

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from pydantic import BaseModel
from sqlalchemy.exc import DataError, DBAPIError, IntegrityError, OperationalError
from sqlalchemy.exc import TimeoutError as NoConnection
from starlette.exceptions import HTTPException
from starlette.responses import Response

from ..core.readings.faults import FAULTS_AT_MOST, CheckRefused, FieldProblem, field_problems
from ..core.words import Words, say, words_of
from ..desks.counter import Theirs
from ..desks.desk import Conflict, NotThere, Refused

FULL = say("problems.the_disk_that_holds_the_records_is_full")
NO_ROOM = "53100"
"""PostgreSQL's state for a full disk. Source: its manual, appendix A."""


class FieldError(BaseModel):
    """A fault and the path of its field."""

    path: str
    message: Words


class Problem(BaseModel):
    """RFC 9457 problem details; `errors` name the fields."""

    type: str = "about:blank"
    title: str
    status: int
    detail: Words
    errors: list[FieldError] = []
    wait_seconds: int | None = None
    theirs: Theirs | None = None
    """What somebody else wrote meanwhile, where two wrote the same."""


def said_in(error: Exception) -> Words:
    """What an error of ours says; nothing where it says nothing."""
    return words_of(error.args[0] if error.args else "")


class ProblemResponse(JSONResponse):
    """A problem on the wire."""

    media_type = "application/problem+json"


def problem(
    status: int,
    detail: Words,
    errors: Sequence[FieldProblem] = (),
    wait_seconds: int | None = None,
    theirs: BaseModel | None = None,
) -> ProblemResponse:
    """A problem response."""
    body = Problem(
        title=HTTPStatus(status).phrase,
        status=status,
        detail=detail,
        errors=[FieldError(path=fault.path, message=fault.message) for fault in errors],
        wait_seconds=wait_seconds,
        theirs=theirs if isinstance(theirs, Theirs) else None,
    )
    headers = {"Retry-After": str(wait_seconds)} if wait_seconds else None
    return ProblemResponse(body.model_dump(mode="json"), status_code=status, headers=headers)


def documented_responses(*statuses: int) -> dict[int | str, dict[str, Any]]:
    """Statuses as a route's schema names them. By reference: a model at each status of each route is built each time."""
    result = {"application/problem+json": {"schema": {"$ref": "#/components/schemas/Problem"}}}
    return {status: {"content": result, "description": DESCRIPTIONS[status]} for status in statuses}


DESCRIPTIONS = {
    401: "Nobody is signed in",
    403: "Not allowed to this person, or not from a signed-in page",
    404: "There is none of that name",
    409: "Somebody was there first",
    413: "The body is too large",
    421: "This server does not answer to that name",
    422: "A field is wrong",
    429: "Too soon: wait first",
    500: "Something went wrong here",
    503: "The database does not answer, or too many ask at once: try again later",
    507: "There is no room for more: what is there can be read",
}
ANY = documented_responses(413, 421, 422, 500, 503, 507)
SIGNED_IN = {**ANY, **documented_responses(401)}
OF_A_BATTERY = documented_responses(404)
WRITE = documented_responses(403, 409)
AT_THE_DOOR = {**ANY, **documented_responses(401, 403, 429)}
"""Statuses that routes may answer with, besides what went well."""
ITSELF: dict[int | str, dict[str, Any]] = {503: {**ANY[503], "model": Problem}}
"""Where the model stands that all refer to: one route brings it into the schema."""


def install(app: FastAPI) -> None:
    """Answer every error of the desks and of the framework as a problem."""

    @app.exception_handler(RequestValidationError)
    async def _invalid(_: Request, error: RequestValidationError) -> Response:
        inside = [{**fault, "loc": fault["loc"][1:]} for fault in error.errors()[:FAULTS_AT_MOST]]
        return problem(422, say("problems.something_typed_cannot_be_right"), field_problems(inside))

    @app.exception_handler(CheckRefused)
    async def _refused_check(_: Request, error: CheckRefused) -> Response:
        return problem(422, say("problems.the_check_cannot_be_right"), error.problems)

    @app.exception_handler(Refused)
    async def _refused(_: Request, error: Refused) -> Response:
        return problem(422, error.args[0], error.problems)

    @app.exception_handler(NotThere)
    async def _not_there(_: Request, error: NotThere) -> Response:
        return problem(404, said_in(error))

    @app.exception_handler(Conflict)
    async def _conflict(_: Request, error: Conflict) -> Response:
        return problem(409, error.args[0], theirs=error.theirs)

    @app.exception_handler(IntegrityError)
    async def _same_moment(_: Request, error: IntegrityError) -> Response:
        return problem(409, say("problems.somebody_wrote_the_same_at_the_same_moment"))

    @app.exception_handler(DataError)
    async def _no_such_figure(_: Request, error: DataError) -> Response:
        return problem(422, say("problems.something_typed_cannot_be_kept_look_for_a"))

    @app.exception_handler(DBAPIError)
    @app.exception_handler(NoConnection)
    async def _away(request: Request, error: Exception) -> Response:
        if isinstance(error, DBAPIError) and getattr(error.orig, "sqlstate", None) == NO_ROOM:
            request.app.state.room.met_full()
            return problem(507, FULL, wait_seconds=5)
        if isinstance(error, DBAPIError) and not isinstance(error, OperationalError):
            raise error  # a fault of ours: the last resort answers and logs it
        return problem(503, say("common.the_database_does_not_answer_what_you_type"), wait_seconds=1)

    @app.exception_handler(PermissionError)
    async def _not_allowed(_: Request, error: PermissionError) -> Response:
        return problem(403, said_in(error))

    @app.exception_handler(HTTPException)
    async def _http(_: Request, error: HTTPException) -> Response:
        if error.status_code == 400:  # a body that is no JSON at all: as wrong as one with a wrong field
            return problem(422, say("problems.what_was_sent_cannot_be_read_it_is_no_json"))
        return problem(
            error.status_code, words_of(error.detail) if error.status_code < 500 else say("problems.try_again")
        )
