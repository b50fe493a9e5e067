"""Every quick answer that is a form, by its address."""

from __future__ import annotations

from gentle_ember.core.quick.answer import Answer
from gentle_ember.core.quick.planning import PLANNING
from gentle_ember.core.quick.proving import PROVING
from gentle_ember.core.quick.sets import SETS

ANSWERS: dict[str, Answer] = {one.key: one for one in (*SETS, *PLANNING, *PROVING)}
