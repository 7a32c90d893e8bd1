"""Documents as what is remembered by: two that say the same are the same, whichever objects they are."""

from typing import Generic, TypeVar, TypeVarTuple

from inclinum.core.document import Document

Documents = TypeVarTuple("Documents")
DocumentT = TypeVar("DocumentT", bound=Document | tuple[object, ...])


class Content(Generic[*Documents]):
    """Some documents, compared by what they say: an argument of a function that remembers its answers.

    A document with a table in it has no hash, and every request brings new objects: what they say is the key.

    Args:
        documents: Documents.
    """

    def __init__(self, *documents: *Documents):
        self.documents = documents
        self._said = tuple(d.as_json for d in documents if isinstance(d, Document))
        if len(self._said) != len(documents):
            raise TypeError("only documents have a content")

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Content) and self._said == other._said

    def __hash__(self) -> int:
        return hash(self._said)


class Same(Generic[DocumentT]):
    """A document, or a tuple of them, as a key by which one it is: quicker than by what it says; none ever changes.

    Args:
        document: kept alive as long as the key is.
    """

    def __init__(self, document: DocumentT):
        self.document = document

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Same) and self.document is other.document

    def __hash__(self) -> int:
        return id(self.document)
