"""Read and validate the shipped data files."""

from __future__ import annotations

import tomllib
from functools import cache
from importlib.resources import files

from pydantic import BaseModel, ConfigDict, Field

from gentle_ember.core.catalog import Catalog
from gentle_ember.core.cylinder import CylinderSize

POUND_KG = 0.45359237
WATER_KG_M3 = 999.0


class CylinderRow(BaseModel):
    """One cylinder of the data file, in the units it is marked with."""

    model_config = ConfigDict(extra="forbid")

    key: str = Field(pattern=r"^[a-z0-9]{1,8}$")
    name: str
    nominal_lb: float = Field(gt=0, le=1000)
    water_lb: float = Field(gt=0, le=3000)
    diameter_m: float = Field(gt=0.05, le=2)
    tare_kg: float = Field(gt=0, le=500)

    def size(self) -> CylinderSize:
        """In SI, as the core takes it."""
        return CylinderSize(
            self.key,
            self.name,
            self.nominal_lb * POUND_KG,
            self.water_lb * POUND_KG / WATER_KG_M3,
            self.diameter_m,
            self.tare_kg,
        )


@cache
def load() -> Catalog:
    """The shipped catalog.

    Raises:
        pydantic.ValidationError: a data file that does not keep to its schema.
    """
    text = (files("gentle_ember.catalog") / "data" / "cylinders.toml").read_text("utf-8")
    rows = [CylinderRow.model_validate(row) for row in tomllib.loads(text)["cylinder"]]
    return Catalog({row.key: row.size() for row in rows})
