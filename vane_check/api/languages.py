"""The languages there are, for pages before and after anybody signs in."""

from typing import Annotated

from fastapi import APIRouter, HTTPException, Path, Query, Response
from pydantic import BaseModel

from .. import languages
from ..core.words import say
from .problems import AT_THE_DOOR, documented_responses

router = APIRouter(prefix="/api", tags=["languages"])

Code = Annotated[str, Path(max_length=8)]


class Language(BaseModel):
    """One language: its messages by their English, how its place writes days and figures, a mark that changes with it."""

    code: str
    name: str
    locale: str
    edition: str
    messages: dict[str, str]


@router.get("/languages", responses=AT_THE_DOOR)
def names() -> dict[str, str]:
    """Every language that can be chosen, by its code, as it calls itself."""
    return languages.names()


@router.get(
    "/languages/{code}",
    response_model=Language,
    responses={**AT_THE_DOOR, **documented_responses(404), 204: {"description": "The known edition is the newest"}},
)
def catalogue(
    code: Code, known: Annotated[str, Query(max_length=20, description="the edition the page has")] = ""
) -> Language | Response:
    """The catalogue of a language. 204 where the page has this edition already."""
    result = languages.catalogues().get(code)
    if result is None:
        raise HTTPException(404, say("languages.there_is_no_file_for_this_language"))
    if known == result.edition:
        return Response(status_code=204)
    return Language(**{**result._asdict(), "messages": result.for_pages})
