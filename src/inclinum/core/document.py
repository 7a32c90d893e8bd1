"""The base of every document model: strict, immutable, free of NaN and of unknown fields."""

from pydantic import BaseModel, ConfigDict


class Document(BaseModel):
    """A validated, immutable piece of a job. Unknown fields and non-finite numbers are refused."""

    model_config = ConfigDict(extra="forbid", frozen=True, allow_inf_nan=False, str_strip_whitespace=True)
