"""Answers on their way out."""

from fastapi import Response
from pydantic import BaseModel


def answered(document: BaseModel) -> Response:
    """A document as it is. The core made it valid; checking it again would double the time of an answer."""
    return Response(document.model_dump_json(), media_type="application/json")


class Csv(Response):
    """A table."""

    media_type = "text/csv"


def pdf(data: bytes) -> Response:
    """Pages."""
    return Response(data, media_type="application/pdf")
