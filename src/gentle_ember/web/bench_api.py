"""The simulated bench: open it, put hands on it, take readings. What it gives is simulated."""

from __future__ import annotations

import io
import wave
from array import array
from collections.abc import Callable
from contextlib import closing

from flask import Response

from gentle_ember.core.job.metering import Ran, Signal
from gentle_ember.core.physics.fuels import FuelKey
from gentle_ember.instruments.hall import Live
from gentle_ember.instruments.setup import setup_of
from gentle_ember.store.errors import FieldError, InvalidJobError, NotFoundError
from gentle_ember.web.blueprint import blueprint, sent
from gentle_ember.web.services import services
from gentle_ember.web.views.bench import (
    ActIn,
    BenchOut,
    BenchPath,
    BenchTakenOut,
    HandsIn,
    OpenBenchIn,
    TakeIn,
    bench,
)

SOUND_S, SOUND_HZ = 4.0, 8000
api = blueprint("bench", "simulated bench", "/api/jobs/<job_id>/bench/<fuel>", 404, 422)


def _live(path: BenchPath) -> Live:
    live = services().hall.of(path.job_id, path.fuel)
    if live is None:
        raise NotFoundError("The simulated bench is not set up; set it up first.")
    return live


def _shown(live: Live) -> Response:
    return sent(bench(live, live.read(services().hall.clock())))


@api.post("", responses={200: BenchOut})
def open_bench(path: BenchPath, body: OpenBenchIn) -> Response:
    """Set up a fresh bench from the job."""
    planned = services().plan(services().jobs.get(path.job_id))
    setup = setup_of(planned, FuelKey(path.fuel), body.seed)
    if setup is None:
        text = "Give the running rating first: the bench is built up from it."
        raise InvalidJobError([FieldError("set.running", text)])
    return _shown(services().hall.open(path.job_id, path.fuel, setup, body.seed))


@api.get("", responses={200: BenchOut})
def look(path: BenchPath) -> Response:
    """The bench as it stands; nothing (204) while none is set up."""
    live = services().hall.of(path.job_id, path.fuel)
    return Response(status=204) if live is None else _shown(live)


@api.delete("")
def put_away(path: BenchPath) -> Response:
    """Put the bench away."""
    services().hall.close(path.job_id, path.fuel)
    return Response(status=204)


@api.patch("", responses={200: BenchOut})
def hands(path: BenchPath, body: HandsIn) -> Response:
    """Turn the screw, open a valve, add load."""
    live = _live(path)
    with services().hall.held(path.job_id, path.fuel):
        given = body.model_dump(exclude_none=True)
        live.pace = given.pop("pace", live.pace)
        for name, value in given.items():
            setattr(live.bench.hands, name, value)
    return _shown(live)


@api.post("/act", responses={200: BenchOut})
def act(path: BenchPath, body: ActIn) -> Response:
    """Pull the rope, press the primer, let it run on, look at the plug, soap a joint."""
    live, now = _live(path), services().hall.clock()
    acts: dict[str, Callable[[], object]] = {
        "pull": lambda: live.pull(now),
        "prime": lambda: live.prime(now, body.seconds),
        "run": lambda: live.run(now, body.seconds),
        "reset": lambda: live.reset(now),
        "plug": lambda: live.take_out_plug(now),
        "film": lambda: live.soap(now, body.joint),
        "mend": lambda: live.mend(now, body.joint),
        "lock_up": lambda: live.lock_up(now),
    }
    acts[body.what]()
    return _shown(live)


@api.get("/sound.wav")
def sound(path: BenchPath) -> Response:
    """Four seconds of what a microphone near the bench's exhaust hears."""
    heard = _live(path).hear(services().hall.clock(), SOUND_S, SOUND_HZ)
    buffer = io.BytesIO()
    with closing(wave.open(buffer, "wb")) as file:
        file.setnchannels(1)
        file.setsampwidth(2)
        file.setframerate(SOUND_HZ)
        file.writeframes(
            array("h", (round(20_000 * max(-1.0, min(1.0, one))) for one in heard)).tobytes()
        )
    answer = Response(buffer.getvalue(), mimetype="audio/wav")
    answer.headers["Cache-Control"] = "no-store"
    return answer


@api.post("/take", responses={200: BenchTakenOut})
def take(path: BenchPath, body: TakeIn) -> Response:
    """Take a reading of the sweep: settle, then average."""
    live = _live(path)
    if not live.bench.engine.running:
        text = "It does not run: start it first, then read."
        raise InvalidJobError([FieldError("bench", text)])
    found = live.take(services().hall.clock(), Signal(body.signal), body.load_w)
    died = found.ran is Ran.DIED
    live.said = "It died on the way to this reading." if died else "Read: settled, then averaged."
    share = found.sigma / found.value if found.value else 0.0
    return sent(
        BenchTakenOut(
            turns=found.turns, value=found.value, sigma=share, ran=found.ran,
            lam=found.lam,
            bench=bench(live, live.read(services().hall.clock())),
        )
    )  # fmt: skip
