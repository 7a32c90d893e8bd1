"""Documents as what is remembered by: two that say the same are the same, whichever objects they are."""

from typing import Generic, TypeVarTuple

from inclinum.core.document import Document

Documents = TypeVarTuple("Documents")


class Content(Generic[*Documents]):
    """Some documents, compared by what they say: an argument of a function that remembers its answers.

    A document with a table in it has no hash, and every request brings new objects: what they say is the key.

    Args:
        documents: Documents.
    """

    def __init__(self, *documents: *Documents):
        self.documents = documents
        self._said = tuple(d.model_dump_json() for d in documents if isinstance(d, Document))
        if len(self._said) != len(documents):
            raise TypeError("only documents have a content")

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Content) and self._said == other._said

    def __hash__(self) -> int:
        return hash(self._said)
