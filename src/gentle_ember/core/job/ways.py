"""Where schools of working differ: which of them a job goes by, and who settled on it."""

from __future__ import annotations

from typing import Literal

from gentle_ember.core.job.facts import By, Model, Note


class Ways(Model):
    """The way each disputed thing is done on this job; empty goes by the default."""

    choke: Literal["", "never", "cold", "as_before"] = ""
    bowl: Literal["", "run_dry", "drained", "on_the_fly"] = ""
    stopping: Literal["", "source", "switch"] = ""
    leaks: Literal["", "fluid", "detector", "both"] = ""
    gaskets: Literal["", "new", "reuse", "as_lay"] = ""
    own_vent: Literal["", "close", "leave", "crack"] = ""
    by: By = ""
    reason: Note = ""
