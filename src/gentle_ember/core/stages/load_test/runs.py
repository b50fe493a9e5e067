"""One run of a load test judged: what counted, what was held, the plug, what follows."""

from __future__ import annotations

import re
from dataclasses import dataclass
from functools import cached_property
from itertools import pairwise

from gentle_ember.core.base.figure import (
    Band,
    Figure,
    Input,
    Method,
    Origin,
    Rounding,
    exact,
    spread,
)
from gentle_ember.core.job.facts import Fact
from gentle_ember.core.job.job import Job
from gentle_ember.core.job.load_test import LoadReading, Run
from gentle_ember.core.physics.jets import bore_ratio
from gentle_ember.core.stage import Severity
from gentle_ember.core.stages.load_test.advice import RunAdvice, RunEvidence, advise, middle
from gentle_ember.core.stages.load_test.plug import LEAST_S, PlugRead, read_plug
from gentle_ember.core.stages.load_test.watch import (
    OPEN,
    Nameplate,
    Remark,
    at_load,
    remarks,
)

ENERGY_BAND = 0.03
AT_LOAD = Method(
    "load-test-time", "Time at load", "Σ time between readings that both show the load",
    "ten minutes between two readings at most; nobody looked for longer", "load-test",
)  # fmt: skip
HELD = Method(
    "load-test-held", "Output held", "mean of the readings at load",
    "power meter, or volts × amps of each leg (resistive loads)", "load-test",
)  # fmt: skip
DELIVERED = Method(
    "load-test-energy", "Energy delivered", "Σ time between readings × mean of both",
    "trapezoids over the readings; what happened between them is taken as between them",
    "load-test",
)  # fmt: skip


@dataclass(frozen=True)
class RunJudged:
    """One run judged: time at load, what was held, what stands out, the plug, what to do next."""

    key: str
    record: Run
    least_w: float
    plate: Nameplate
    expected: Figure
    at_hand: tuple[float, ...]
    bore: bool
    stock: float | None
    """The jet it was made with, that others are counted against."""

    @cached_property
    def readings(self) -> list[tuple[str, LoadReading]]:
        """Readings in the order of their times."""
        return sorted(
            self.record.readings.items(),
            key=lambda one: one[1].after.value if one[1].after else 0.0,
        )

    @cached_property
    def seconds(self) -> float:
        """Time at a load that counts [s]."""
        return at_load([one for _, one in self.readings], self.least_w)

    @cached_property
    def time(self) -> Figure:
        """The same as it is shown."""
        rows = tuple(
            Input(f"at {one.after.value / 60:.0f} min", watts, "power")
            for _, one in self.readings
            if one.after is not None and (watts := one.watts) is not None
        )
        return Figure(
            f"load.{self.key}.time", "at load", self.seconds, "minutes", AT_LOAD,
            exact(self.seconds), (Input("counts from", self.least_w, "power"), *rows),
            rounding=Rounding.DOWN,
        )  # fmt: skip

    @cached_property
    def _loaded(self) -> list[LoadReading]:
        return [
            one for _, one in self.readings
            if (watts := one.watts) is not None and watts >= self.least_w
        ]  # fmt: skip

    @cached_property
    def held(self) -> Figure | None:
        """Output held at load, against what was expected."""
        watts = [value for one in self._loaded if (value := one.watts) is not None]
        if not watts:
            return None
        mean = sum(watts) / len(watts)
        return Figure(
            f"load.{self.key}.held", "held", mean, "power", HELD, Band(min(watts), max(watts)),
            (Input("expected here", self.expected.value, "power"),
             *(Input("read", value, "power", Origin.MEASURED) for value in watts)),
        )  # fmt: skip

    @cached_property
    def energy(self) -> Figure | None:
        """Energy delivered from the first reading to the last; None while they span nothing."""
        timed = [
            (one.after.value, watts)
            for _, one in self.readings
            if one.after is not None and (watts := one.watts) is not None
        ]
        joule = sum(
            (later[0] - earlier[0]) * (earlier[1] + later[1]) / 2
            for earlier, later in pairwise(timed)
        )
        if joule <= 0:
            return None
        return Figure(
            f"load.{self.key}.energy", "delivered", joule, "energy", DELIVERED,
            spread(joule, ENERGY_BAND),
            (Input("from", timed[0][0], "minutes"), Input("to", timed[-1][0], "minutes"),
             *(Input("read", watts, "power", Origin.MEASURED) for _, watts in timed)),
            narrows=("an energy meter read before and after",),
        )  # fmt: skip

    @property
    def span_s(self) -> float:
        """From the first reading to the last [s]."""
        times = [one.after.value for _, one in self.readings if one.after is not None]
        return max(times) - min(times) if times else 0.0

    @property
    def jet_ratio(self) -> float:
        """Bore of the jet in it over that of the one it was made with [1]."""
        if self.record.jet is None or not self.stock:
            return 1.0
        return bore_ratio(self.record.jet.value, self.stock, bore=self.bore)

    @property
    def lam(self) -> float | None:
        """λ at load, the middle reading [1]."""
        return middle([one.lam.value for one in self._loaded if one.lam is not None])

    @property
    def opened(self) -> bool:
        """Whether the throttle was seen to open."""
        wide = any(one.throttle is not None and one.throttle.value >= OPEN for one in self._loaded)
        return wide or self.record.opened == "yes"

    @property
    def simulated(self) -> bool:
        """Whether any of it comes from the simulated bench."""
        return self.record.simulated

    @cached_property
    def remarks(self) -> tuple[Remark, ...]:
        """What stands out, each once, as the latest readings have it."""
        found = {}
        for _, one in self.readings:
            for remark in remarks(one, self.plate):
                # The same remark with another figure takes the place of the one before.
                found[re.sub(r"[\d.+%-]+", "", remark.text)] = remark
        return tuple(found.values())

    @cached_property
    def now(self) -> tuple[Remark, ...]:
        """What the last reading says."""
        return tuple(remarks(self.readings[-1][1], self.plate)) if self.readings else ()

    @cached_property
    def plug(self) -> PlugRead | None:
        """The plug as it was read."""
        look = self.record.plug
        return read_plug(look.after, gas=self.plate.gas, before=look.before, seconds=self.seconds)

    @property
    def counts(self) -> bool:
        """Whether it counts as a load test: long enough, near enough, throttle seen open."""
        return self.seconds >= LEAST_S and self.opened

    @cached_property
    def advice(self) -> RunAdvice:
        """What follows from it."""
        record = self.record
        pushed = self.held is not None and any(
            one.throttle is not None and one.throttle.value >= 0.9 for one in self._loaded
        )
        held = self.held.value / self.expected.band.low if self.held and pushed else None
        return advise(
            RunEvidence(
                self.plate.gas, self.lam, self.plug, held,
                any(one.ran == "hunting" for one in self._loaded),
                record.jet.value if record.jet else None,
                record.turns.value if record.turns else None,
                self.at_hand, self.bore, self.counts, self.plate.gas_jet,
            )
        )  # fmt: skip

    @property
    def again(self) -> tuple[float | None, float | None]:
        """Jet and turns of the run after it: as advised if that was decided, else as they are."""
        advised, record = self.record.decided.what == self.advice.what, self.record
        jet = record.jet.value if record.jet else None
        turns = record.turns.value if record.turns else None
        if not advised:
            return jet, turns
        return self.advice.jet or jet, self.advice.turns or turns

    def keeps(self, job: Job, key: str) -> dict[str, Fact]:
        """What becomes a fact of the set or its metering when this run is kept, by its path.

        Args:
            job: the job.
            key: the test's, as in `s1-propane`. Only a run that counts makes facts.
        """
        if self.simulated or not self.counts:
            return {}
        here, jet, turns = job.sites[job.site].elevation, self.record.jet, self.record.turns
        if jet is not None and here is not None:
            at = "set.carburetor.jets.fitted"
            return {f"{at}.number": jet, f"{at}_for": here}
        metered = job.metering.get(key)
        locked = metered.locked if metered else None
        if turns is not None and locked is not None and turns.value != locked.value:
            return {f"metering.{key}.locked": turns}
        return {}

    @property
    def wants_reason(self) -> bool:
        """Whether it was kept against what follows from it, and nobody said why."""
        decided = self.record.decided
        other = self.advice.what not in ("", "keep")
        return decided.what == "keep" and other and not decided.reason.strip()

    @property
    def settled(self) -> bool:
        """Whether it ends the test: it counts, on the machine, kept with reason, nothing stops."""
        stopped = any(one.severity is Severity.STOP for one in self.now) or self.advice.stop
        kept = self.record.decided.what == "keep" and not self.wants_reason
        return self.counts and kept and not stopped and not self.simulated
