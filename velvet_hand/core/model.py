"""The base of every model: strict, frozen, nothing extra, no NaN."""

from __future__ import annotations

from typing import TypeVar

from pydantic import BaseModel, ConfigDict


class Model(BaseModel):
    """Immutable value. Parse untrusted text with ``model_validate_json``."""

    model_config = ConfigDict(
        frozen=True,
        extra="forbid",
        strict=True,
        allow_inf_nan=False,
        json_schema_serialization_defaults_required=True,
    )


Kind = TypeVar("Kind")


def own(value: object, kind: type[Kind]) -> Kind:
    """The value as what it has to be here; anything else is a mistake of the program.

    Raises
    ------
    AssertionError
        When it is not.
    """
    if not isinstance(value, kind):
        raise AssertionError(f"{value!r} is no {kind.__name__}")
    return value
