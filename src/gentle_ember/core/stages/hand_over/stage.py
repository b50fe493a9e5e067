"""Hand over as a stage of the job."""

from __future__ import annotations

from gentle_ember.core.stage import Stage

STAGE = Stage("hand_over", "Hand over")
