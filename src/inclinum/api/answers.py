"""Answers on their way out."""

from typing import Any

from fastapi import Response
from pydantic import BaseModel


def answered(document: BaseModel) -> Response:
    """A document as it is. The core made it valid; checking it again would double the time of an answer."""
    return Response(document.model_dump_json(), media_type="application/json")


def other_than_json(media_type: str, description: str) -> dict[int | str, dict[str, Any]]:
    """How an answer is described that is not JSON; refusals are JSON all the same."""
    return {200: {"description": description, "content": {media_type: {"schema": {"type": "string"}}}}}


CSV = other_than_json("text/csv", "A table")
PDF = other_than_json("application/pdf", "Pages")


def pdf(data: bytes) -> Response:
    """Pages."""
    return Response(data, media_type="application/pdf")
