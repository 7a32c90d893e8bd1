"""The base of every document model: strict, immutable, free of NaN and of unknown fields."""

from typing import TYPE_CHECKING

from pydantic import BaseModel, ConfigDict


class Document(BaseModel):
    """A validated, immutable piece of a job. Unknown fields and non-finite numbers are refused."""

    model_config = ConfigDict(extra="forbid", frozen=True, allow_inf_nan=False, str_strip_whitespace=True)

    if TYPE_CHECKING:  # frozen models are hashable at run time; checkers are told so

        def __hash__(self) -> int: ...
