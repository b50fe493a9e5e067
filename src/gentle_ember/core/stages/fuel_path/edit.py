"""Changes to a train that keep it a train: from a solution, swap, turn, insert, roles of parts."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from gentle_ember.core.base.figure import Origin
from gentle_ember.core.catalog import NOTHING, Bridge, Shelf, open_ends, opposite
from gentle_ember.core.job.ends import Seal, join
from gentle_ember.core.job.facts import Fact
from gentle_ember.core.job.part import Part, PartClass, end
from gentle_ember.core.job.train import Slot, Train
from gentle_ember.core.physics.fuels import FuelKey
from gentle_ember.core.stages.fuel_path.limits import usual_cut_m
from gentle_ember.core.stages.fuel_path.search import Placed
from gentle_ember.core.stages.fuel_path.templates import Template

CUT = "cut to fit"


def train_of(template: Template, placed: Iterable[Placed], old: Train | None = None) -> Train:
    """A train from what the solver placed; what was said of the old one stays.

    A part that stays where it was keeps what was seen of it; a joint that was sealed otherwise
    than it should be is made again.
    """
    slots: dict[str, Slot] = {}
    held = old.slots if old is not None else {}
    loose = [slot for slot in held.values() if not slot.role]
    last: Placed | None = None
    for one in placed:
        before = held.get(one.role) if one.role else next(
            (slot for slot in loose if slot.part == one.part.key), None
        )  # fmt: skip
        stays = before is not None and before.part == one.part.key
        if stays and before in loose:
            loose.remove(before)
        length = None
        if one.part.by_length:
            same = before is not None and before.length is not None
            kept = before.length if same and before is not None else None
            length = (
                kept
                if kept is not None and abs(kept.value - one.length_m) < 1e-9
                else Fact(value=one.length_m, origin=Origin.COMPUTED, typed=CUT)
            )
        made = Slot(part=one.part.key, role=one.role, length=length, turned=one.turned)
        if stays and before is not None:
            wrong = before.seal not in (None, _proper(last, one))
            made = made.model_copy(update={
                "there": before.there, "remade": before.there and (before.remade or wrong),
                "upright": before.upright, "capped": before.capped, "made": before.made,
                "note": before.note,
            })  # fmt: skip
        slots[_free(slots, one.role or "fitting")] = made
        last = one
    base = old or Train(template=template.key)
    return base.model_copy(update={"template": template.key, "slots": slots})


def _proper(before: Placed | None, after: Placed) -> Seal | None:
    """How the joint between two parts should be sealed; None where there is none."""
    if before is None:
        return None
    outlet = before.part.ends(turned=before.turned)[1]
    inlet = after.part.ends(turned=after.turned)[0]
    return join(end(outlet), end(inlet)).seal if outlet and inlet else None


def _free(slots: Mapping[str, object], name: str) -> str:
    """A key not taken yet, from a name."""
    if name not in slots and name != "fitting":
        return name
    number = 1
    while f"{name}{number}" in slots:
        number += 1
    return f"{name}{number}"


def with_roles(train: Train, template: Template, parts: Mapping[str, Part]) -> Train:
    """The train with a role at every slot whose part could fill one, in the template's order."""
    slots, at = {}, 0
    roles = template.roles
    for key, slot in train.slots.items():
        part = parts.get(slot.part)
        role = ""
        if part is not None and part.kind is not PartClass.FITTING:
            for place in range(at, len(roles)):
                if part.kind in roles[place].kinds:
                    role, at = roles[place].key, place + 1
                    break
        slots[key] = slot.model_copy(update={"role": role})
    return train.model_copy(update={"slots": slots})


def kept(train: Train, shelf: Shelf) -> dict[str, str]:
    """Which part is at each role, of those the catalog still has."""
    return {
        slot.role: slot.part
        for slot in train.slots.values()
        if slot.role and slot.part in shelf.parts
    }


def lengths(train: Train) -> dict[str, float]:
    """What was cut at each role [m]."""
    return {
        slot.role: slot.length.value
        for slot in train.slots.values()
        if slot.role and slot.length is not None and slot.length.typed != CUT
    }


@dataclass(frozen=True, slots=True)
class Swap:
    """A train with another part at a slot, and the fittings that took."""

    train: Train
    added: tuple[Part, ...]
    mates: bool


def swap(
    train: Train,
    key: str,
    parts: tuple[Part, ...],
    shelf: Shelf,
    fuel: FuelKey,
    *,
    length: Fact | None = None,
) -> Swap:
    """Put other parts at a slot and those after it, with the fewest fittings to their neighbors.

    Fittings that joined the old ones are taken out. Where nothing joins, the parts are put in all
    the same and `mates` is False.

    Args:
        train: the train.
        key: the slot of the first part.
        parts: one part, or both halves of a coupler.
        shelf: the catalog.
        fuel: what flows.
        length: what is cut off the reel; as before when None.

    Raises:
        KeyError: the train has no such slot.
    """
    names = list(train.slots)
    at = names.index(key) if key in names else _missing(key)
    keys = names[at : at + len(parts)]
    left = _neighbor(train, names, at, -1, shelf)
    right = _neighbor(train, names, at + len(keys) - 1, 1, shelf)
    options = []
    for turned in (False, True) if parts[0].kind in _EITHER else (False,):
        first, last = parts[0], parts[-1]
        inlet, outlet = (last.outlet, first.inlet) if turned else (first.inlet, last.outlet)
        before = _join(train, names, left, inlet, shelf, fuel, upstream=True)
        after = _join(train, names, right, outlet, shelf, fuel, upstream=False)
        options.append((_rank(before) + _rank(after), turned, before, after))
    _, turned, before, after = min(options, key=lambda one: (one[0], one[1]))
    slots: dict[str, Slot] = {}
    for name in names[: left + 1]:
        slots[name] = train.slots[name]
    added: list[Part] = []
    _add(slots, before, added)
    for name, part in zip(keys, parts, strict=True):
        old = train.slots[name]
        cut = (length or old.length or usual_length(part)) if part.by_length else None
        slots[name] = Slot(part=part.key, role=old.role, length=cut, turned=turned)
    _add(slots, after, added)
    for name in names[right:]:
        slots[name if name not in slots else _free(slots, name)] = train.slots[name]
    return Swap(
        train.model_copy(update={"slots": slots}),
        tuple(added),
        before is not None and after is not None,
    )


def partner(part: Part, shelf: Shelf) -> Part | None:
    """The half that goes with a coupler's half: the cheapest that mates with it."""
    supply = _coupled(part.outlet)
    joint = part.outlet if supply else part.inlet
    found = [
        other
        for other in shelf.by_class[part.kind]
        if not other.use_instead
        and (other.inlet if supply else other.outlet) == opposite(joint)
        and set(other.gases) & set(part.gases)
    ]
    return min(found, key=lambda one: one.price, default=None)


def is_half(part: Part | None) -> bool:
    """Whether a part is one half of a coupler."""
    return part is not None and part.kind in (PartClass.GAS_HALF, PartClass.FUEL_HALF)


def pair_at(train: Train, key: str, parts: Mapping[str, Part]) -> tuple[str, str] | None:
    """Slots of the coupler whose half is at a slot; None where it has no other half beside."""
    names = list(train.slots)
    at = names.index(key) if key in names else _missing(key)
    for first in (at, at - 1):
        if 0 <= first < len(names) - 1 and all(
            is_half(parts.get(train.slots[name].part)) for name in names[first : first + 2]
        ):
            return names[first], names[first + 1]
    return None


def _coupled(text: str) -> bool:
    return text.startswith(("gas:", "fuel:"))


_EITHER = frozenset((PartClass.BULKHEAD, PartClass.GAS_HOSE, PartClass.PIPE))


def _missing(key: str) -> int:
    raise KeyError(key)


def _neighbor(train: Train, names: list[str], at: int, step: int, shelf: Shelf) -> int:
    """Place of the next slot that is no fitting; one past the end where there is none."""
    place = at + step
    while 0 <= place < len(names):
        part = shelf.parts.get(train.slots[names[place]].part)
        if part is None or part.kind is not PartClass.FITTING:
            return place
        place += step
    return place


def _ends(train: Train, name: str, shelf: Shelf) -> tuple[str, str]:
    slot = train.slots[name]
    part = shelf.parts.get(slot.part)
    if part is None:
        return "", ""
    return part.ends(turned=slot.turned)


def _join(
    train: Train,
    names: list[str],
    place: int,
    text: str,
    shelf: Shelf,
    fuel: FuelKey,
    *,
    upstream: bool,
) -> Bridge | None:
    """The best fittings to the neighbor; NOTHING where there is none or it mates; None if none."""
    if not 0 <= place < len(names):
        return NOTHING
    inlet, outlet = _ends(train, names[place], shelf)
    other = outlet if upstream else inlet
    if not other or not text:
        return NOTHING if not shelf.parts.get(train.slots[names[place]].part) else None
    opened, takes = (other, text) if upstream else (text, other)
    return between(shelf, opened, takes, fuel)


def between(shelf: Shelf, opened: str, takes: str, fuel: FuelKey) -> Bridge | None:
    """The best fittings from an open end to one that must take it; None where nothing joins."""
    wanted = open_ends(takes)
    if opened in wanted:
        return NOTHING
    found = [one for leaves in wanted for one in shelf.bridges(fuel).get((opened, leaves), ())]
    return min(found, key=lambda one: one.rank, default=None)


def _rank(one: Bridge | None) -> int:
    return 100 if one is None else len(one.fittings)


def _add(slots: dict[str, Slot], one: Bridge | None, added: list[Part]) -> None:
    for part, turned in one.fittings if one is not None else ():
        slots[_free(slots, "fitting")] = Slot(part=part.key, turned=turned)
        added.append(part)


def turn(train: Train, key: str, parts: Mapping[str, Part]) -> Train:
    """A part the other way round; of a coupler both halves change places.

    Raises:
        KeyError: the train has no such slot.
    """
    pair = pair_at(train, key, parts)
    slots = dict(train.slots)
    if pair is not None:
        first, second = pair
        one, other = slots[first], slots[second]
        slots[first] = other.model_copy(update={"turned": not other.turned, "role": one.role})
        slots[second] = one.model_copy(update={"turned": not one.turned, "role": other.role})
        return _opened(train, slots, first, second)
    slots[key] = slots[key].model_copy(update={"turned": not slots[key].turned})
    return _opened(train, slots, key)


def _opened(train: Train, slots: dict[str, Slot], *keys: str) -> Train:
    """The train with both joints of some parts opened: made again, where the parts stay."""
    names = list(slots)
    after = {names[at + 1] for at, name in enumerate(names[:-1]) if name in keys}
    for key in {*keys, *after}:
        slots[key] = slots[key].model_copy(update={"remade": slots[key].there})
    return train.model_copy(update={"slots": slots})


def stands(train: Train, parts: Mapping[str, Part]) -> Train:
    """A train as found, kept: every known part is there already.

    A joint sealed otherwise than it should be is made again. Where some parts were said to be
    there before, the others are new.
    """
    begun = any(slot.there for slot in train.slots.values())
    slots: dict[str, Slot] = {}
    last: Placed | None = None
    for key, slot in train.slots.items():
        part = parts.get(slot.part)
        here = Placed(part, slot.role, 0.0, slot.turned) if part else None
        there = slot.there if begun else part is not None
        wrong = here is not None and slot.seal not in (None, _proper(last, here))
        update: dict[str, object] = {"there": there, "remade": there and (slot.remade or wrong)}
        slots[key] = slot.model_copy(update=update | ({"seal": None} if there and wrong else {}))
        last = here
    return train.model_copy(update={"slots": slots, "found": False})


def usual_length(part: Part) -> Fact:
    """What is cut off the reel where nobody measured yet."""
    usual = usual_cut_m(part)
    return Fact(value=usual, origin=Origin.ASSUMED, typed=f"{usual:g} m")


def insert(train: Train, after: str, slot: Slot, parts: Mapping[str, Part]) -> Train:
    """A slot put in after another; at the beginning when `after` is empty."""
    part = parts.get(slot.part)
    if part is not None and part.by_length and slot.length is None:
        slot = slot.model_copy(update={"length": usual_length(part)})
    name = slot.role or ("fitting" if part and part.kind is PartClass.FITTING else "part")
    slots: dict[str, Slot] = {}
    free = _free(train.slots, name)
    if not after:
        slots[free] = slot
    for key, one in train.slots.items():
        slots[key] = one
        if key == after:
            slots[free] = slot
    return train.model_copy(update={"slots": slots})


def without(train: Train, key: str) -> Train:
    """The train without a slot; what stood on either side of it is joined anew."""
    slots = {name: one for name, one in train.slots.items() if name != key}
    names = list(train.slots)
    after = names[names.index(key) + 1 :][:1]
    for name in after:
        slots[name] = slots[name].model_copy(update={"remade": slots[name].there})
    return train.model_copy(update={"slots": slots})


def bridged(train: Train, key: str, shelf: Shelf, fuel: FuelKey) -> Train:
    """The train with fittings before a slot, so that it mates with what stands there.

    Raises:
        KeyError: the train has no such slot.
        NoBridgeError: one of the two is not known, or nothing joins them.
    """
    names = list(train.slots)
    at = names.index(key) if key in names else _missing(key)
    opened = _ends(train, names[at - 1], shelf)[1] if at else ""
    takes = _ends(train, key, shelf)[0]
    if not opened or not takes:
        raise NoBridgeError("One of the two has no end here: nothing can be chosen between them.")
    found = between(shelf, opened, takes, fuel)
    if found is None:
        ends = f"{end(opened).text} and {end(takes).text}"
        raise NoBridgeError(f"Nothing in the catalog joins {ends}: choose another part.")
    slots = {name: train.slots[name] for name in names[:at]}
    _add(slots, found, [])
    for name in names[at:]:
        slots[name if name not in slots else _free(slots, name)] = train.slots[name]
    return train.model_copy(update={"slots": slots})


class NoBridgeError(ValueError):
    """Two parts that no fittings of the catalog join."""
