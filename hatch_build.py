"""A wheel carries the built page, or is not made."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from hatchling.builders.hooks.plugin.interface import BuildHookInterface

PAGE = Path("src/gentle_ember/web/static/index.html")


class PageHook(BuildHookInterface):
    """Refuses a wheel from a checkout whose page was not built; an editable install needs none."""

    def initialize(self, version: str, build_data: dict[str, Any]) -> None:
        """Called before anything is packed.

        Raises:
            FileNotFoundError: the page is not there.
        """
        if version != "editable" and not (Path(self.root) / PAGE).is_file():
            raise FileNotFoundError(
                f"The page is not built: {PAGE} is missing. Run `make wheel`: it builds it first."
            )
