"""Engine speed from a recording: samples in, the speed with its working out."""

from __future__ import annotations

import numpy as np
from flask import Response, request

from gentle_ember.core.base.errors import QuantityError
from gentle_ember.core.physics.sound import rpm_of
from gentle_ember.store.errors import FieldError, InvalidJobError
from gentle_ember.store.validate import allowed
from gentle_ember.web.blueprint import blueprint, sent
from gentle_ember.web.views import base
from gentle_ember.web.views.quick import FiguresOut, SoundQuery

api = blueprint("sound", "quick answers", "/api/quick/sound", 422)
MOST_BYTES = 4_000_000
SAID = {
    "steadiness of the note": (
        "No steady engine note in it: nearer to the exhaust, out of the wind, at a steady load, "
        "and nothing else running beside it."
    ),
    "steadiness of the speed": (
        "The speed changed while it was recorded: once more, at a steady load."
    ),
}
"""What is said of a recording that tells no speed."""


@api.post("", responses={200: FiguresOut})
def speed(query: SoundQuery) -> Response:
    """Engine speed of a recording: the body holds 16-bit samples, little end first, one channel."""
    content = request.get_data(cache=False)
    if not content or len(content) > MOST_BYTES or len(content) % 2:
        text = "A few seconds of sound are wanted, at most half a minute."
        raise InvalidJobError([FieldError("recording", text)])
    samples = np.frombuffer(content, dtype="<i2").astype(float)
    try:
        found = rpm_of(samples, query.rate, query.cylinders, even=query.even, hertz=query.hertz)
    except QuantityError as error:
        text = SAID.get(error.name) or allowed(error)
        raise InvalidJobError([FieldError("recording", text)]) from None
    return sent(FiguresOut([base.figure(found)]))
