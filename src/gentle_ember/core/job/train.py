"""A train as a job keeps it: the parts from source to intake in order, and how they were put in."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from gentle_ember.core.job.dates import Month
from gentle_ember.core.job.ends import Seal
from gentle_ember.core.job.facts import Fact, Key, Model, Name, Note, Quantity

AS_FOUND = "as_found"
"""Key of somebody else's train in the job; every other train is keyed by its fuel."""


class Slot(Model):
    """One part of a train. `part` is a key of the job's parts; empty stands for an unknown one."""

    part: Key | Literal[""] = ""
    unknown: Name = ""
    """What is seen of a part nobody knows, in words."""
    role: Key | Literal[""] = ""
    """What it does in the train, as a key of the template's roles; empty for a fitting."""
    length: Annotated[Fact | None, Quantity("length", "Length", 0.0, 300.0)] = None
    """What is cut off the reel, for hose and pipe."""
    turned: bool = False
    """Put in the other way round."""
    there: bool = False
    """On the set already: kept, neither ordered nor put in again."""
    remade: bool = False
    """The joint before it is made again, though both its parts stay."""
    seal: Seal | None = None
    """What seals the joint before it, where that was seen to be other than it should."""
    capped: bool | None = None
    """Whether its side openings are capped; None until somebody looked."""
    on: Literal["", "cylinder", "frame", "cover"] = ""
    """What a regulator is fixed to; empty as usual for its kind."""
    upright: bool | None = None
    """Whether it stands as it must; None until somebody looked."""
    made: Month = ""
    """The date printed on a hose."""
    note: Note = ""
    """What whoever has it in hand wants to be known of it; photos hang on its path."""


class OwnBranch(Model):
    """The line from the set's own tank to the selector's other side."""

    kept: bool = False
    """The hose on the own tank's outlet stays: cut, and its end put on the selector."""
    length: Annotated[Fact | None, Quantity("length", "Own tank to selector", 0.05, 5.0)] = None


class Train(Model):
    """The parts from source to intake. Keys only name slots; their order is the train's."""

    template: Key
    slots: Annotated[dict[Key, Slot], Field(max_length=40)] = {}
    found: bool = False
    """Somebody else's work, entered as it stands."""
    inlet: Literal["", "hose_on", "capped", "open"] = ""
    """How the set's gas inlet stands as found: an open one draws air; empty until looked at."""
    own: OwnBranch = OwnBranch()
    """How the own tank gets to the selector, where the train has one."""
    past_exhaust: bool = False
    """Whether a hose passes the exhaust."""
    through_cover: bool | None = None
    """Whether a hose passes through a cover; by the set's class when not said."""
