"""Rules every train is held against: joints, sealing, pressures, ratings, position."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from gentle_ember.core.job.ends import SEALING, join
from gentle_ember.core.job.part import MIXERS, REGULATORS, SOURCES, PartClass, end
from gentle_ember.core.job.train import AS_FOUND
from gentle_ember.core.physics.fuels import FuelKey
from gentle_ember.core.stages.fuel_path.gas_rules import RULES as GAS_RULES
from gentle_ember.core.stages.fuel_path.gasoline_rules import RULES as GASOLINE_RULES
from gentle_ember.core.stages.fuel_path.mixture import part_load
from gentle_ember.core.stages.fuel_path.trouble import (
    Amount,
    TrainCase,
    Trouble,
    mind,
    not_known,
    stop,
)

Rule = Callable[[TrainCase], Iterator[Trouble]]


def judge(case: TrainCase) -> tuple[Trouble, ...]:
    """Every fault of a train, stops first, then what is not known, along the train."""
    rules = ANY_RULES + (
        GASOLINE_RULES if case.asked.template.fuel is FuelKey.GASOLINE else GAS_RULES
    )
    found = [trouble for rule in rules for trouble in rule(case)]
    found += part_load(case)
    order = {one.key: at for at, one in enumerate(case.parts)}
    return tuple(
        sorted(found, key=lambda one: (not one.stops, not one.holds, order.get(one.slot, -1)))
    )


def joints(case: TrainCase) -> Iterator[Trouble]:
    """Ends must mate, from the source to the set's own end."""
    for before, after in zip(case.parts, case.parts[1:], strict=False):
        if before.part is None or after.part is None:
            continue
        if not before.part.outlet or not after.part.inlet:
            yield stop(
                "joint",
                after.key,
                f"{after.part.name} has nothing to join here.",
                "A source comes first, a cap on a side opening.",
                joint=True,
            )
            continue
        found = join(end(before.part.outlet), end(after.part.inlet))
        if not found.mates:
            yield stop(
                "joint",
                after.key,
                found.why,
                "Parts mate only if system, size and gender agree.",
                joint=True,
                mend="bridge",
            )
    last = case.parts[-1] if case.parts else None
    intake = case.asked.limits.intake
    if last is None or last.part is None or not intake:
        return
    if not last.part.outlet or not join(end(last.part.outlet), end(intake)).mates:
        ends = end(last.part.outlet).text if last.part.outlet else last.part.name
        yield stop(
            "intake",
            last.key,
            f"The train ends in {ends}; the set takes {end(intake).text}.",
            "The last part must fit this very set.",
        )


def sealing(case: TrainCase) -> Iterator[Trouble]:
    """What was found in a joint must be what seals it; somebody else's joint was looked at."""
    for before, after in zip(case.parts, case.parts[1:], strict=False):
        seen = after.slot.seal
        if before.part is None or after.part is None:
            continue
        if not before.part.outlet or not after.part.inlet:
            continue
        if seen is None:
            if case.name == AS_FOUND:
                yield not_known(
                    "sealing",
                    after.key,
                    f"What seals {after.part.name} to the part before it was not checked.",
                    "A joint made by somebody else is known only when it is seen.",
                )
            continue
        proper = join(end(before.part.outlet), end(after.part.inlet)).seal
        if seen is not proper:
            right = SEALING[proper]
            yield stop(
                "sealing",
                after.key,
                f"Sealed by {SEALING[seen].name}; this joint needs {right.name}.",
                right.never,
                joint=True,
                mend=right.do,
            )


def windows(case: TrainCase) -> Iterator[Trouble]:
    """Every device sees a pressure it likes at no flow and at full flow."""
    for one, part in case.known():
        rung = case.ladder.of(one.key)
        still, full = rung.inlet["none"], rung.inlet["full"]
        if part.most_pa is not None and still > part.most_pa + 1e-6:
            alone = _first_stage_alone(case, one.key)
            why = (
                "A first stage alone gives 10 psi, which is 277 in w.c.: a second stage goes "
                "between."
                if alone
                else "At no flow the regulator before it locks up above its set pressure."
            )
            yield stop(
                "over_pressure",
                one.key,
                f"{part.name} is over-pressured.",
                why,
                Amount("sees at no flow", still),
                Amount("takes at most", part.most_pa),
                mend="second stage" if alone else "solve",
            )
        if part.least_pa is not None and full < part.least_pa - 1e-6:
            loser = _largest_loss(case, one.key)
            half = "half load is fine" if rung.inlet["half"] >= part.least_pa else "half load too"
            text = f"{part.name} starves at full load; {half}."
            if loser is not None:
                text += f" {loser[0]} takes most."
            yield stop(
                "starved",
                one.key,
                text,
                "Drops add up along the train; the last regulator's outlet must cover them.",
                Amount("gets", max(0.0, full)),
                Amount("needs", part.least_pa),
                Amount("short by", part.least_pa - full),
                *((Amount(f"lost in {loser[0]}", loser[1]),) if loser else ()),
                mend="solve",
            )


def _first_stage_alone(case: TrainCase, key: str) -> bool:
    kinds = []
    for one, part in case.known():
        if one.key == key:
            break
        if part.kind in REGULATORS:
            kinds.append(part.kind)
    return kinds == [PartClass.FIRST_STAGE]


def _largest_loss(case: TrainCase, key: str) -> tuple[str, float] | None:
    """The part that takes most at full load since the last regulator."""
    worst: tuple[str, float] | None = None
    for one in case.parts:
        if one.key == key:
            break
        if one.part is None:
            continue
        if one.part.kind in REGULATORS:
            worst = None
            continue
        lost = case.ladder.of(one.key).lost("full")
        if lost > 1.0 and (worst is None or lost > worst[1]):
            worst = (one.part.name, lost)
    return worst


def ratings(case: TrainCase) -> Iterator[Trouble]:
    """Pressure rating, rated flow, the fuel, grill class."""
    heat = case.asked.demand.heat_hhv() * case.asked.limits.flow_factor
    for one, part in case.known():
        still = case.ladder.of(one.key).inlet["none"]
        if part.kind is PartClass.GRILL:
            yield stop(
                "grill",
                one.key,
                "A grill regulator is not for engines.",
                "It droops and freezes at this flow, and shuts down on its leak limiter.",
                mend="solve",
            )
        if part.rating_pa is not None and still > part.rating_pa + 1e-6:
            yield stop(
                "rating",
                one.key,
                f"{part.name} is rated for less than it sees.",
                "At no flow it sees the whole pressure before it.",
                Amount("sees at no flow", still),
                Amount("rated", part.rating_pa),
            )
        full = case.ladder.of(one.key).inlet["full"]
        passes = part.passes_w(full, case.asked.demand.ambient_pa)
        if passes is not None and heat > passes:
            throttled = passes < (part.rated_w or 0.0)
            yield stop(
                "rated_flow",
                one.key,
                f"{part.name} passes less than full load takes"
                + (" at what the cylinder gives in the cold." if throttled else "."),
                "Sized on the upper end of demand."
                + (" What it passes goes with the pressure before it." if throttled else ""),
                Amount("full load", heat, "heat_rate"),
                Amount("passes", passes, "heat_rate"),
                *((Amount("gets", full, "pressure"),) if throttled else ()),
                mend="solve",
            )
        if not part.takes(case.asked.template.fuel):
            yield stop(
                "fuel",
                one.key,
                f"{part.name} is not made for this fuel.",
                "Its seals, metal or orifice are for another one.",
                mend="solve",
            )
        if part.pump_m3_s is not None:
            flow = case.asked.demand.mass("full") / case.asked.demand.fuel.density_kg_m3
            if flow > part.pump_m3_s:
                yield stop(
                    "rated_flow",
                    one.key,
                    f"{part.name} pumps less than full load takes.",
                    "Its stated flow is without lift.",
                    mend="solve",
                )


def weather(case: TrainCase) -> Iterator[Trouble]:
    """Cold, heat, and what is no longer sold."""
    limits = case.asked.limits
    for one, part in case.known():
        unfit = limits.why_unfit(None, part)
        other, missing = limits.other_set(part)
        if missing:
            yield not_known(
                "for_set", one.key, f"{part.name}: {other}.",
                "Sets of one name differ by family and year: what fits one is in the way of "
                "another.", path=missing,
            )  # fmt: skip
        elif other:
            yield stop(
                "for_set", one.key, f"{part.name}: {other}.",
                "Its maker names the sets it goes on; this is none of them.", mend="solve",
            )  # fmt: skip
        elif part.use_instead:
            yield mind(
                "old",
                one.key,
                f"{part.name} is no longer sold: use {part.use_instead}.",
                "Spares and replacements can't be had.",
            )
        elif unfit:
            yield mind(
                "weather",
                one.key,
                f"{part.name}: {unfit}.",
                "Rubber stiffens and diaphragms leak outside their range.",
            )


def unknown_parts(case: TrainCase) -> Iterator[Trouble]:
    """A part nobody knows, or whose maker's limits nobody states: nothing past it is sure."""
    metered = bool(case.of(PartClass.DEMAND))
    for one in case.parts:
        if one.part is None:
            what = one.slot.unknown or "a part"
            yield not_known(
                "unknown",
                one.key,
                f"Not known: {what}.",
                "Pressures past it can't be worked out: read its maker and number, or replace it.",
            )
            continue
        missing = list(one.part.limits_unstated)
        if one.part.kind is PartClass.CARBURETOR and not metered:
            stated = (one.part.least_pa, one.part.most_pa, one.part.rated_w)
            missing += ["inlet pressures and rated flow"] if None in stated else []
        if missing:
            yield not_known(
                "limits",
                one.key,
                f"{one.part.name}: {' and '.join(missing)} not stated.",
                "What a part takes is its maker's word: no limit given is not no limit.",
            )


def assumptions(case: TrainCase) -> Iterator[Trouble]:
    """What the train was judged by and nobody has said."""
    first = case.parts[0].key if case.parts else ""
    for text, path in case.asked.assumed:
        yield not_known(
            "assumed", first, f"Assumed: {text}.",
            "Nobody has said so, and the verdict rests on it: say what it really is.", path=path,
        )  # fmt: skip


def whole(case: TrainCase) -> Iterator[Trouble]:
    """From a source to the set's own end, with nothing missing at either, and from this source."""
    if not case.parts:
        return
    gasoline = case.asked.template.fuel is FuelKey.GASOLINE
    first, last = case.parts[0], case.parts[-1]
    if first.part is not None and first.part.kind not in SOURCES:
        yield stop(
            "no_source", first.key, "The train has no source.",
            "What feeds it, and at which pressure, is not given.", mend="solve",
        )  # fmt: skip
    if last.part is not None:
        ends = (PartClass.FUEL_INLET,) if gasoline else tuple(MIXERS)
        if last.part.kind not in ends:
            yield stop(
                "no_end", last.key, "The train does not reach the engine.",
                "Its last part is missing: an open end lets fuel out, or air in.", mend="solve",
            )  # fmt: skip
    if first.part is not None and first.part.kind in SOURCES and not gasoline:
        here = {case.catalog[key].outlet for key in case.asked.sources if key in case.catalog}
        if here and first.part.outlet not in here:
            there = " or ".join(sorted(end(one).text for one in here))
            begins = end(first.part.outlet).text if first.part.outlet else "a source turned round"
            yield stop(
                "other_source", first.key,
                f"The train begins at {begins}; this site has {there}.",
                "Train and site must agree, or it can't be joined on the day.", mend="solve",
            )  # fmt: skip


def positions(case: TrainCase) -> Iterator[Trouble]:
    """Parts that work upright only, side openings that must be capped."""
    for one, part in case.known():
        if part.upright and one.slot.upright is False:
            what = (
                "A lying cylinder gives liquid."
                if part.kind is PartClass.CYLINDER
                else "Its diaphragm hangs: another position shifts its setting."
            )
            yield stop("upright", one.key, f"{part.name} must be upright.", what)
        if case.name == AS_FOUND and part.upright and one.slot.upright is None:
            yield not_known(
                "upright", one.key, f"Whether {part.name} is upright was not checked.",
                "It works in one position only.",
            )  # fmt: skip
        if case.name == AS_FOUND and part.side_openings and one.slot.capped is None:
            yield not_known(
                "open_port", one.key, f"Whether {part.name}'s side opening is capped was not "
                "looked at.", "Gas out, or air in: lean on gasoline.",
            )  # fmt: skip
        if part.ports and one.slot.capped is False:
            yield stop(
                "open_port",
                one.key,
                f"An opening of {part.name} is not capped.",
                "Gas out, or air in: lean on gasoline.",
                mend="Add its cap.",
            )


def open_inlet(case: TrainCase) -> Iterator[Trouble]:
    """How the inlet of a set found converted stands now: open, it draws air on gasoline."""
    if case.name != AS_FOUND or case.asked.template.fuel is FuelKey.GASOLINE or not case.parts:
        return
    last = case.parts[-1].key
    if case.train.inlet == "open":
        yield stop(
            "open_inlet", last, "The set's gas inlet is open now.",
            "It draws air past the carburetor: lean on gasoline, and gas out of it on the way.",
            mend="Cap it before it is started on anything.",
        )  # fmt: skip
    elif not case.train.inlet:
        yield not_known(
            "open_inlet", last, "Whether the set's gas inlet is capped now was not checked.",
            "Open, it draws air past the carburetor: lean on gasoline.",
        )  # fmt: skip


ANY_RULES: tuple[Rule, ...] = (
    joints, sealing, windows, ratings, weather, unknown_parts, assumptions, whole, positions,
    open_inlet,
)  # fmt: skip
