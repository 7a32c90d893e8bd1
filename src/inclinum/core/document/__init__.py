"""The base of every document model: strict, immutable, free of NaN and of unknown fields."""

from collections.abc import Mapping
from datetime import UTC, datetime
from functools import cached_property
from typing import TYPE_CHECKING, Annotated, Any, Self

from pydantic import AfterValidator, AwareDatetime, BaseModel, ConfigDict
from pydantic.config import JsonDict

from inclinum.core.document.errors import DomainError


def _in_utc(moment: datetime) -> datetime:
    try:
        return moment.astimezone(UTC)
    except OverflowError:
        raise DomainError(f"{moment.year} is no year in which anything was done") from None


Moment = Annotated[AwareDatetime, AfterValidator(_in_utc)]
"""A point in time with its zone, kept in UTC so that it is written the same wherever it was read."""


def _in_order(items: dict) -> dict:
    return dict(sorted(items.items()))


InOrder = AfterValidator(_in_order)
"""Annotation of a mapping kept in the order of its keys, so that the same document is always written the same."""


UNITS = {
    "n_per_mm2": "N/mm²", "mm2_per_mm": "mm²/mm", "mm3": "mm³", "mm2": "mm²", "n_per_mm": "N/mm", "mm": "mm",
    "nm": "N·m", "deg": "°", "kg": "kg", "percent": "%", "hz": "Hz",
}  # fmt: skip
"""Units by the ending of a field's name, the longer endings first."""


def unit_of(field: str) -> tuple[str, str]:
    """A field's name without its unit's ending, and the unit (empty where it has none)."""
    for ending, unit in UNITS.items():
        if field.endswith(f"_{ending}"):
            return field.removesuffix(f"_{ending}"), unit
    return field, ""


def _title(field: str, _: object) -> str:
    return unit_of(field)[0].replace("_", " ").capitalize()


def _with_units(schema: dict[str, Any]) -> None:
    """The unit that a field's name ends with, for forms."""
    for name, field in schema.get("properties", {}).items():
        unit = unit_of(name)[1]
        if unit:
            field.setdefault("unit", unit)


BY_CHANGES: JsonDict = {"set_by": "changes"}
"""Of a field that only changes write: against the machine as it came it says nothing, so nobody is asked for it."""


class Document(BaseModel):
    """A validated, immutable piece of a job. Unknown fields and non-finite numbers are refused."""

    model_config = ConfigDict(
        extra="forbid",
        frozen=True,
        allow_inf_nan=False,
        str_strip_whitespace=True,
        field_title_generator=_title,
        json_schema_extra=_with_units,
    )

    @cached_property
    def as_json(self) -> str:
        """All it says, as JSON: a key of what is worked out from it."""
        return self.model_dump_json()

    def model_copy(self, *, update: Mapping[str, Any] | None = None, deep: bool = False) -> Self:
        """A copy, as Pydantic's, but without what was worked out and remembered from the fields as they were."""
        if deep:
            return super().model_copy(deep=True).model_copy(update=update)
        # Pydantic copies three dictionaries and what was remembered with them; a search makes thousands of copies.
        of = type(self)
        copied = of.__new__(of)
        fields = vars(self).copy()
        if len(fields) != len(of.__pydantic_fields__):
            for name in fields.keys() - of.__pydantic_fields__.keys():
                del fields[name]
        given = self.__pydantic_fields_set__
        if update:
            fields |= update
            given = given | update.keys()
        object.__setattr__(copied, "__dict__", fields)
        object.__setattr__(copied, "__pydantic_fields_set__", given)
        object.__setattr__(copied, "__pydantic_extra__", None)
        object.__setattr__(copied, "__pydantic_private__", None)
        return copied

    if TYPE_CHECKING:  # frozen models are hashable at run time; checkers are told so

        def __hash__(self) -> int: ...
