"""Benches that are open: they stand while somebody looks, and go some time after the last did."""

from gentle_ember.instruments.hall import GONE_S, MOST_BENCHES, Hall
from tests.helpers.sweeps import setup

SETUP = setup("inverter", "propane", 1)


class Clock:
    """A clock that is set by hand."""

    now = 100.0

    def __call__(self):
        return self.now


def test_a_bench_goes_half_an_hour_after_the_last_page_that_looked():
    clock = Clock()
    hall = Hall(clock)
    looked_at, left = (hall.open(job, "propane", SETUP, 1) for job in ("a", "b"))
    for _ in range(4):
        clock.now += GONE_S / 3
        found = hall.of("a", "propane")
        assert found is looked_at
        found.read(clock.now)
    assert hall.of("b", "propane") is None
    assert left is not None
    clock.now += GONE_S + 5.0
    assert hall.of("a", "propane") is None


def test_a_reload_finds_the_bench_as_it_stood():
    clock = Clock()
    hall = Hall(clock)
    live = hall.open("a", "propane", SETUP, 1)
    live.read(clock.now)
    clock.now += GONE_S - 60.0
    assert hall.of("a", "propane") is live


def test_of_too_many_the_one_used_longest_ago_goes():
    hall = Hall(Clock())
    for n in range(MOST_BENCHES):
        hall.open(f"j{n}", "propane", SETUP, n)
    assert hall.of("j0", "propane")
    hall.open("one more", "propane", SETUP, 0)
    assert hall.of("j1", "propane") is None and hall.of("j0", "propane")
