"""Logbook as a stage of the job."""

from __future__ import annotations

from gentle_ember.core.stage import Stage, anew

STAGE = Stage("logbook", "Logbook", owns={"archived": anew})
