"""Any plan: a tagged union of the plans of all procedures, put together when it is first needed.

A plan lies below the set-up and its procedure above it; so the events know plans only as ``BasePlan``, and pydantic
gets the union when it builds their schema.
"""

from __future__ import annotations

import pkgutil
from functools import reduce
from importlib import import_module
from operator import or_
from pathlib import Path
from typing import Annotated, Any

from pydantic import Field, GetCoreSchemaHandler
from pydantic_core import CoreSchema

from .base import BasePlan

FOLDERS = Path(__file__).parent.parent / "procedures"


def procedure_ids() -> tuple[str, ...]:
    """The folders of the procedures, by name."""
    found = (m.name for m in pkgutil.iter_modules([str(FOLDERS)]) if m.ispkg)
    return tuple(name for name in sorted(found) if (FOLDERS / name / "procedure.py").exists())


def plan_classes() -> tuple[type[BasePlan], ...]:
    """The plan of every procedure, from its folder's ``plan.py``."""
    found = []
    for name in procedure_ids():
        module = import_module(f"velvet_hand.core.procedures.{name}.plan")
        own = [c for c in vars(module).values() if isinstance(c, type) and issubclass(c, BasePlan)]
        found += [c for c in own if c.__module__ == module.__name__]
    return tuple(found)


class _ByProcedure:
    """Validates a plan as that of its procedure."""

    def __get_pydantic_core_schema__(self, source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
        union: Any = reduce(or_, plan_classes())
        return handler.generate_schema(Annotated[union, Field(discriminator="procedure")])


AnyPlan = Annotated[BasePlan, _ByProcedure()]
