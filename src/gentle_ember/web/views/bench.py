"""The simulated bench."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from gentle_ember.core.job.metering import Ran
from gentle_ember.core.physics.fuels import FuelKey
from gentle_ember.instruments.hall import Live
from gentle_ember.instruments.protocol import CHANNELS, Reading
from gentle_ember.web.views.base import BothOut, Request, View, both


class BenchPath(Request):
    """A job's bench on one fuel."""

    job_id: str = Field(max_length=36)
    fuel: FuelKey


class OpenBenchIn(Request):
    """A fresh bench; the seed draws what nobody knows of it."""

    seed: int = Field(default=1, ge=0, le=2**31)


class HandsIn(Request):
    """What the person does; what is left out stays. Watts and turns."""

    turns: float | None = Field(default=None, ge=0, le=40)
    right_turns: float | None = Field(default=None, ge=0, le=40)
    gauge: str | None = Field(default=None, max_length=60)
    idle_turns: float | None = Field(default=None, ge=0, le=20)
    load_w: float | None = Field(default=None, ge=0, le=60e3)
    choke: float | None = Field(default=None, ge=0, le=1)
    jet: float | None = Field(default=None, ge=0.4, le=2)
    gas_open: bool | None = None
    gasoline_open: bool | None = None
    switch_on: bool | None = None
    eco: bool | None = None
    kinked: float | None = Field(default=None, ge=0, le=1)
    pace: float | None = Field(default=None, ge=1, le=20)


class ActIn(Request):
    """Something done on the bench."""

    what: Literal["pull", "prime", "reset", "run", "plug", "film", "mend", "lock_up"]
    seconds: float = Field(default=2.0, ge=0.1, le=600)
    """How long: the primer is held, or it runs on."""
    joint: str = Field(default="", max_length=60)
    """The joint soaped, or made anew."""


class TakeIn(Request):
    """A reading of a sweep."""

    signal: Literal["output", "speed", "throttle"] = "output"
    load_w: float = Field(ge=0, le=60e3)


class ChannelOut(BothOut):
    """What one instrument shows."""

    key: str
    name: str
    instrument: str
    value: float


class GaugeOut(View):
    """Somewhere the manometer can be put."""

    key: str
    title: str


class BenchOut(View):
    """The bench as it stands."""

    at_s: float
    running: bool
    tripped: bool
    said: str
    plug: str
    """The plug as last taken out, by the picture chart."""
    film: Literal["", "holds", "bubbles", "foam"]
    """The film at the joint last soaped."""
    inverter: bool
    barrels: int
    gauges: list[GaugeOut]
    most_turns: float
    limit_w: float
    hands: HandsIn
    channels: list[ChannelOut]


class BenchTakenOut(View):
    """A reading taken on the bench, and the bench after it."""

    turns: float
    value: float
    sigma: float
    ran: Ran
    lam: float | None
    bench: BenchOut


def bench(live: Live, readings: list[Reading]) -> BenchOut:
    """The bench as it stands with what its instruments show."""
    one = live.bench
    hands = one.hands
    return BenchOut(
        at_s=round(one.now_s, 1), running=one.engine.running,
        tripped=one.engine.tripped, said=live.said, plug=live.plug, film=live.film,
        inverter=one.setup.engine.inverter, barrels=one.setup.engine.barrels,
        gauges=[GaugeOut(key=at.key, title=at.title) for at in one.setup.gauges],
        most_turns=one.setup.engine.screw_turns,
        limit_w=one.setup.engine.limit_w,
        hands=HandsIn(
            turns=hands.turns, right_turns=hands.right_turns, gauge=hands.gauge,
            idle_turns=hands.idle_turns, load_w=hands.load_w,
            choke=hands.choke, jet=hands.jet, gas_open=hands.gas_open,
            gasoline_open=hands.gasoline_open, switch_on=hands.switch_on,
            eco=hands.eco, kinked=hands.kinked, pace=live.pace,
        ),
        channels=[
            ChannelOut(
                key=reading.channel, name=CHANNELS[reading.channel].name,
                instrument=CHANNELS[reading.channel].instrument,
                value=float(f"{reading.value:.5g}"),
                **dict(both(reading.value, CHANNELS[reading.channel].kind, 3)),
            )
            for reading in readings
        ],
    )  # fmt: skip
