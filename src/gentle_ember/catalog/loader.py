"""Read and validate the shipped data files."""

from __future__ import annotations

import tomllib
from collections.abc import Iterator
from functools import cache
from importlib.resources import files
from typing import Any

from pydantic import BaseModel, ConfigDict, Field

from gentle_ember.catalog.rows import RowFault, key_of, read_rows
from gentle_ember.core.catalog import Catalog, Kit, Supplier
from gentle_ember.core.job.part import Part
from gentle_ember.core.physics.cylinder import CylinderSize

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
        CatalogError: a part that can't be read, or a number given twice.
    """
    rows = [CylinderRow.model_validate(row) for row in _toml("cylinders.toml")["cylinder"]]
    parts: dict[str, Part] = {}
    for part in _shipped():
        if part.key in parts:
            raise CatalogError(f"{part.number} is in the catalog twice")
        parts[part.key] = part
    kits = {kit.key: kit for kit in _kits(parts)}
    suppliers = {row["maker"]: Supplier(row["name"], row["phone"], row["mail"], row["terms"])
                 for row in _toml("suppliers.toml")["supplier"]}  # fmt: skip
    return Catalog({row.key: row.size() for row in rows}, parts, kits, suppliers)


def _toml(name: str) -> dict[str, Any]:
    return tomllib.loads((files("gentle_ember.catalog") / "data" / name).read_text("utf-8"))


def _kits(parts: dict[str, Part]) -> Iterator[Kit]:
    for row in _toml("kits.toml")["kit"]:
        contents = {key_of(number): count for number, count in row["contents"].items()}
        unknown = [key for key in contents if key not in parts]
        if unknown:
            raise CatalogError(f"kit {row['key']}: no part {', '.join(unknown)}")
        yield Kit.model_validate({**row, "contents": contents})


class CatalogError(ValueError):
    """A shipped data file that is not right."""


def _shipped() -> Iterator[Part]:
    folder = files("gentle_ember.catalog") / "data" / "parts"
    for file in sorted(folder.iterdir(), key=lambda one: one.name):
        for _, found in read_rows(file.read_text("utf-8").splitlines()):
            if isinstance(found, Part):
                yield found
            else:
                faults = "; ".join(_told(fault) for fault in found)
                raise CatalogError(f"{file.name}: {faults}")


def _told(fault: RowFault) -> str:
    return f"line {fault.line}, {fault.column}: {fault.why}"
