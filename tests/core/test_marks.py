"""Where a part fits on a face, what hinders it, how it is drilled."""

from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from gentle_ember.core.job.generator import Face
from gentle_ember.core.job.marks import Mount
from gentle_ember.core.physics.fasteners import THREADS, bolt_length
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.fit.marks.drawing import (
    SHEETS,
    Circle,
    DrawingLayer,
    Stroke,
    TooLargeError,
    template,
)
from gentle_ember.core.stages.fit.marks.label import label
from gentle_ember.core.stages.fit.marks.mount import (
    MountPlan,
    as_in_hand,
    mount_plans,
    mountable,
    on_face,
    plan_mount,
)
from gentle_ember.core.stages.fit.marks.place import BEHIND_M, CLEARANCES_M, OTHER_M
from gentle_ember.core.stages.fit.sheet import fit_sheet
from gentle_ember.core.stages.method.networks import fuel_states, safe_orders
from tests.helpers.fits import SPACER, fitted
from tests.helpers.sets import CATALOG, fact

REGULATOR, BULKHEAD = "pv-d-101", "lf-g-104"


def box(kind: str, side: str, left: float, up: float, wide: float, high: float,
        away: float | None = None) -> dict[str, Any]:  # fmt: skip
    found: dict[str, Any] = {"kind": kind, "side": side}
    for name, value in (("left", left), ("up", up), ("wide", wide), ("high", high),
                        ("away", away)):  # fmt: skip
        found[name] = None if value is None else fact(value)
    return found


def plan(part: str = REGULATOR, wide: float = 0.42, high: float = 0.26, thick: float = 1.5e-3,
         room: float = 0.06, **more: Any) -> MountPlan:  # fmt: skip
    mount = Mount.model_validate(
        {
            "part": part, "wide": fact(wide), "high": fact(high), "room": fact(room),
            "layers": {"l1": {"material": more.pop("material", "steel"),
                              "thickness": fact(thick)}},
            **more,
        }
    )  # fmt: skip
    return plan_mount("m1", mount, CATALOG.parts[part])


THINGS = st.lists(
    st.builds(
        box,
        st.sampled_from(["exhaust", "plug", "handle", "wheel", "tank", "wiring", "other"]),
        st.sampled_from(["front", "behind"]),
        st.integers(0, 400).map(lambda mm: mm / 1e3),
        st.integers(0, 250).map(lambda mm: mm / 1e3),
        st.integers(10, 150).map(lambda mm: mm / 1e3),
        st.integers(10, 150).map(lambda mm: mm / 1e3),
    ),
    max_size=4,
)


def apart(a: tuple[float, ...], b: tuple[float, ...]) -> float:
    """Distance of two rectangles, by their sides."""
    dx = max(b[0] - a[2], a[0] - b[2], 0.0)
    dy = max(b[1] - a[3], a[1] - b[3], 0.0)
    return float((dx * dx + dy * dy) ** 0.5)


@given(THINGS)
def test_a_place_that_is_found_clears_everything(things: list[dict[str, Any]]) -> None:
    found = plan(obstacles={f"o{n}": one for n, one in enumerate(things)})
    if found.center is None:
        assert found.blockers
        assert not found.ready
        return
    assert found.shape is not None
    cx, cy = found.center
    hx, hy = found.shape.across_m / 2, found.shape.up_m / 2
    assert hx - 1e-9 <= cx <= 0.42 - hx + 1e-9
    assert hy - 1e-9 <= cy <= 0.26 - hy + 1e-9
    for one in things:
        left, low = one["left"]["value"], one["up"]["value"]
        there = (left, low, left + one["wide"]["value"], low + one["high"]["value"])
        if one["side"] == "front":
            keep = CLEARANCES_M.get(one["kind"], OTHER_M)
            assert apart((cx - hx, cy - hy, cx + hx, cy + hy), there) >= keep - 1e-6
        else:
            for hole in found.holes:
                point = (hole.x_m, hole.y_m, hole.x_m, hole.y_m)
                assert apart(point, there) >= found.shape.wrench_m + BEHIND_M - 1e-6
    assert found.room is not None
    assert found.room.value >= -1e-9


@given(THINGS)
def test_what_is_named_as_in_the_way_is_what_hinders(things: list[dict[str, Any]]) -> None:
    named = {f"o{n}": {**one, "name": f"thing {n}"} for n, one in enumerate(things)}
    found = plan(obstacles=named)
    if found.center is not None:
        return
    gone = {one.what for one in found.blockers}
    left = {key: one for key, one in named.items() if one["name"] not in gone}
    assert all(one.short_m > 0 for one in found.blockers)
    if "edge of the face" not in gone:
        assert plan(obstacles=left).center is not None


@settings(max_examples=25)
@given(THINGS)
def test_places_are_those_a_plain_search_finds(things: list[dict[str, Any]]) -> None:
    found = plan(obstacles={f"o{n}": one for n, one in enumerate(things)})
    shape = plan().shape
    assert shape is not None
    hx, hy, bolt = shape.across_m / 2, shape.up_m / 2, shape.bolts[1][0]
    boxes = []
    for one in things:
        left, low = one["left"]["value"], one["up"]["value"]
        boxes.append((one, (left, low, left + one["wide"]["value"], low + one["high"]["value"])))

    def good(x: float, y: float, eps: float = 0.0) -> bool:
        if not (hx - eps <= x <= 0.42 - hx + eps and hy - eps <= y <= 0.26 - hy + eps):
            return False
        for one, there in boxes:
            if one["side"] == "front":
                keep = CLEARANCES_M.get(one["kind"], OTHER_M)
                if apart((x - hx, y - hy, x + hx, y + hy), there) < keep - eps:
                    return False
            elif any(apart((x + dx, y, x + dx, y), there) < shape.wrench_m + BEHIND_M - eps
                     for dx in (-bolt, bolt)):  # fmt: skip
                return False
        return True

    places = [(x / 1e3, y / 1e3) for x in range(0, 421, 4) for y in range(0, 261, 4)]
    plain = [place for place in places if good(*place)]
    if plain:
        assert found.center is not None
    if found.center is not None:
        assert good(*found.center, eps=1e-9)


def test_no_place_is_better_than_the_one_found() -> None:
    things = {"e": box("exhaust", "front", 0.40, 0.02, 0.02, 0.09),
              "t": box("tank", "behind", 0.0, 0.15, 0.26, 0.11, 0.01)}  # fmt: skip
    best = plan(obstacles=things)
    assert best.center is not None
    assert best.room is not None
    for dx, dy in ((0.03, 0.0), (-0.03, 0.0), (0.0, 0.02), (0.0, -0.02)):
        other = plan(obstacles=things, left=fact(best.center[0] + dx),
                     up=fact(best.center[1] + dy))  # fmt: skip
        assert other.room is not None
        assert other.room.value <= best.room.value + 2e-3


def test_a_place_somebody_wants_is_checked() -> None:
    things = {"e": box("exhaust", "front", 0.40, 0.0, 0.02, 0.26)}
    found = plan(obstacles=things, left=fact(0.3), up=fact(0.13))
    assert [one.what for one in found.blockers] == ["exhaust"]
    assert found.blockers[0].short_m == pytest.approx(0.3 + 0.056 + 0.15 - 0.4)
    assert not found.ready


def test_marks_are_taken_from_edges_a_tape_hooks_on() -> None:
    found = plan(hooks=["right", "top"])
    assert found.center is not None
    for hole in found.holes:
        assert hole.across == ("right", pytest.approx(0.42 - hole.x_m))
        assert hole.upright == ("top", pytest.approx(0.26 - hole.y_m))
    bare = plan(hooks=["left"])
    assert any("hook" in text for text, _ in bare.stops)


def test_what_stops_a_mount() -> None:
    assert any("upright only" in text for text, _ in plan(stands=False).stops)
    assert any("more room behind" in text for text, _ in plan(room=4e-3).stops)
    tube = plan(BULKHEAD, face="tube", high=0.028)
    assert any("needs a panel" in text for text, _ in tube.stops)
    small = plan(wide=0.1, high=0.1)
    assert {one.what for one in small.blockers} == {"edge of the face"}
    assert plan_mount("m", Mount(), None).missing


def test_with_a_tank_behind_it_is_drilled_to_a_stop_or_not_at_all() -> None:
    behind = {"t": box("tank", "behind", 0.0, 0.0, 0.42, 0.26, 0.02)}
    near = {"t": box("tank", "behind", 0.0, 0.0, 0.42, 0.26, 0.006)}
    stopped = plan(obstacles=behind)
    assert stopped.ready
    assert stopped.depth.stop_m == pytest.approx(1.5e-3 + 1e-3)
    assert not plan(obstacles=near).ready
    assert plan().depth.stop_m is None


@pytest.mark.parametrize(
    ("thread", "clamped", "length"),
    [("M6", 3.5e-3, 16e-3), ("M6", 4.5e-3, 16e-3), ("M6", 10e-3, 25e-3), ("M8", 5e-3, 20e-3)],
)
def test_bolts_reach_through_with_a_full_nut_and_two_pitches(
    thread: str, clamped: float, length: float
) -> None:
    one = THREADS[thread]
    found = bolt_length(one, clamped)
    assert found == pytest.approx(length)
    left = found - clamped - 2 * one.washer_thick_m - one.nut_m
    assert left >= 2 * one.pitch_m - 1e-9


def test_every_part_that_is_mounted_says_how() -> None:
    for part in CATALOG.parts.values():
        if mountable(part):
            assert part.body_across_m, part.number
            assert part.bolt_m is None or part.bolts_across_m, part.number


@pytest.mark.parametrize("sheet", SHEETS)
@pytest.mark.parametrize("part", [REGULATOR, BULKHEAD, "pv-d-109"])
def test_a_template_is_true_to_the_holes_and_stays_on_its_sheet(sheet: str, part: str) -> None:
    found = plan(part, wide=0.6, high=0.5)
    made = template(found, "x", sheet, {})
    holes = [
        one for one in made.shapes if isinstance(one, Circle) and one.layer is DrawingLayer.HOLES
    ]
    assert len(holes) == len(found.holes)
    for one, hole in zip(holes, found.holes, strict=True):
        assert 2 * one.radius == pytest.approx(hole.diameter_m)
        assert one.x - holes[0].x == pytest.approx(hole.x_m - found.holes[0].x_m)
        assert one.y - holes[0].y == pytest.approx(hole.y_m - found.holes[0].y_m)
    for shape in made.shapes:
        spots = ([(shape.x1, shape.y1), (shape.x2, shape.y2)] if isinstance(shape, Stroke)
                 else [(shape.x, shape.y)])  # fmt: skip
        for x, y in spots:
            assert 0.005 < x < made.wide - 0.005
            assert 0.005 < y < made.high - 0.005


def test_a_template_without_a_place_is_refused() -> None:
    with pytest.raises(TooLargeError):
        template(plan(wide=0.1, high=0.1), "x", "a4", {})


def test_the_label_names_every_handle_in_every_state() -> None:
    plan = Plan(fitted(*SPACER), CATALOG)
    states, orders = plan.of(fuel_states), plan.of(safe_orders)
    made = label("Holm", states, orders)
    texts = [one.text for one in made.shapes if not isinstance(one, Stroke | Circle)]
    for control in states.controls:
        assert control.key == "engine" or control.name in texts
    assert any("carbon monoxide" in text for text in texts)
    for one in orders:
        shown = not one.key.startswith("over.")
        assert (one.name in texts) is shown
        first = texts.index(one.name) if shown else 0
        below = " ".join(text.strip() for text in texts[first:])
        assert not shown or all(line.rstrip(".") in below for line in one.lines)
    for shape in made.shapes:
        if isinstance(shape, Stroke):
            assert min(shape.x1, shape.x2) >= -1e-9
            assert max(shape.x1, shape.x2) <= made.wide + 1e-9


def skins(**holes: float | None) -> MountPlan:
    """A bulkhead through two skins, each with a hole of its own where one is given."""
    layers = {
        key: {"material": "plastic", "thickness": fact(2e-3),
              **({"hole": fact(hole)} if hole is not None else {})}
        for key, hole in holes.items()
    }  # fmt: skip
    return plan(BULKHEAD, layers=layers)


def test_a_second_skin_with_a_wider_hole_is_opened_after_the_first_for_nut_and_wrench():
    same, wide = skins(l1=None, l2=None), skins(l1=None, l2=0.05)
    assert same.ready
    assert wide.ready
    assert [one.diameter_m for one in wide.passes[: len(same.passes)]] == [
        one.diameter_m for one in same.passes
    ]
    last = wide.passes[-1]
    assert (last.bit, last.diameter_m) == ("hole saw", 0.05)
    assert "alone" in last.do


@pytest.mark.parametrize(
    ("holes", "says"),
    [
        ({"l1": None, "l2": 0.010}, "narrower"),
        ({"l1": None, "l2": 0.020}, "Nut and wrench"),
        ({"l1": 0.05, "l2": 0.05}, "nothing is left to hold it"),
    ],
)
def test_skins_that_hold_nothing_or_let_nothing_through_are_not_drilled(holes, says):
    found = skins(**holes)
    assert not found.ready
    assert any(says in text for text, _ in found.stops)
    assert all(path.startswith("marks.m1.layers") for _, path in found.stops)


def test_a_bolt_holds_only_the_skins_its_nut_bears_on():
    def bolt(hole: float | None) -> float:
        layers = {
            "l1": {"material": "steel", "thickness": fact(2e-3)},
            "l2": {"material": "steel", "thickness": fact(6e-3),
                   **({"hole": fact(hole)} if hole else {})},
        }  # fmt: skip
        found = plan(layers=layers).bolt
        assert found is not None
        return found.value

    assert bolt(0.05) < bolt(None)
    one = plan(thick=2e-3).bolt
    assert one is not None
    assert bolt(0.05) == one.value


FACES = {"f1": {"name": "left side", "room": fact(0.09), "behind": "tank"},
         "f2": {"name": "rear", "room": fact(0.2), "behind": "nothing"}}  # fmt: skip


def on(face: str, **more: Any) -> MountPlan:
    faces = {key: Face.model_validate(one) for key, one in FACES.items()}
    mount = Mount.model_validate({
        "part": REGULATOR, "of_face": face, "wide": fact(0.42), "high": fact(0.26),
        "layers": {"l1": {"material": "steel", "thickness": fact(1.5e-3)}}, **more,
    })  # fmt: skip
    return plan_mount("m1", on_face(mount, faces), as_in_hand(mount, CATALOG.parts[REGULATOR]))


def test_a_face_measured_at_intake_is_not_measured_again_and_its_tank_counts():
    rear, side, none = on("f2"), on("f1"), on("")
    assert rear.ready
    assert not rear.missing
    assert ("room behind the face", "marks.m1.room") in none.missing
    assert side.behind == "tank"
    assert side.depth.stop_m is not None
    # What was typed of this mount goes before what the face says.
    near = on("f2", room=fact(5e-3))
    assert any("more room behind" in text for text, _ in near.stops)


def test_a_tank_near_behind_a_face_is_not_drilled_at_wherever_it_is():
    faces = {"f1": Face.model_validate({**FACES["f1"], "room": fact(4e-3)})}
    mount = Mount.model_validate({
        "part": BULKHEAD, "of_face": "f1", "wide": fact(0.3), "high": fact(0.2),
        "room": fact(0.06), "layers": {"l1": {"material": "steel", "thickness": fact(1e-3)}},
    })  # fmt: skip
    found = plan_mount("m1", on_face(mount, faces), CATALOG.parts[BULKHEAD])
    assert not found.ready
    assert [one.what for one in found.blockers] == ["tank"]
    job = fitted(*SPACER, marks={"m1": mount.model_dump(mode="json")},
                 set__faces={"f1": faces["f1"].model_dump(mode="json")})  # fmt: skip
    (planned,) = Plan(job, CATALOG).of(mount_plans)
    assert [one.path for one in planned.blockers] == ["set.faces.f1.behind"]


@pytest.mark.parametrize("how", ["measured", "transferred"])
def test_a_part_in_the_hand_is_placed_by_its_own_holes(how):
    told = {"holes": how, "bolts_across": fact(0.05), "bolts_up": fact(0.03)}
    assert any("measured on the part" in text for text, _ in on("f2", **told).missing)
    found = on("f2", **told, bolt=fact(5e-3))
    assert found.ready
    assert len(found.holes) == 4
    assert found.thread is not None
    assert found.thread.name == "M5"
    xs = sorted({round(hole.x_m, 6) for hole in found.holes})
    assert xs[1] - xs[0] == pytest.approx(0.05)


def test_marking_through_the_part_is_another_step_than_marking_by_the_tape():
    def words(**told: Any) -> str:
        marks = {
            "m1": {
                "part": REGULATOR,
                "wide": fact(0.42),
                "high": fact(0.26),
                "room": fact(0.06),
                "layers": {"l1": {"thickness": fact(1.5e-3)}},
                **told,
            }
        }
        steps = Plan(fitted(*SPACER, marks=marks), CATALOG).of(fit_sheet).steps
        return next(one.step.what for one in steps if one.step.key == "mark-m1")  # fmt: skip

    assert "from the edges" in words()
    assert "through its own holes" in words(holes="transferred", bolt=fact(6e-3),
                                            bolts_across=fact(0.06))  # fmt: skip
