"""Answers of the core on their way out."""

from fastapi import Response

from inclinum.core.document import Document


def answered(document: Document) -> Response:
    """A document as it is. The core made it valid; checking it again would double the time of a live drag."""
    return Response(document.model_dump_json(), media_type="application/json")
