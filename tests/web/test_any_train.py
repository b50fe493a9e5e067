"""Any train a person could enter is judged and drawn: nothing breaks, nothing passes unseen."""

from hypothesis import given, settings
from hypothesis import strategies as st

from gentle_ember.core.job.job import Choice
from gentle_ember.core.job.train import Slot, Train
from gentle_ember.core.route import cautions, open_items
from gentle_ember.core.stage import Plan
from gentle_ember.core.stages.fuel_path.templates import TEMPLATES
from gentle_ember.web.views import fit as fit_view
from gentle_ember.web.views import fuel_path as fuel_path_view
from gentle_ember.web.views import ledger as ledger_view
from gentle_ember.web.views import parts as parts_view
from tests.helpers.sets import CATALOG, fact, job_of

KEYS = sorted(CATALOG.parts)


@st.composite
def trains(draw):
    template = draw(st.sampled_from(sorted(TEMPLATES)))
    slots = {}
    for number in range(draw(st.integers(0, 9))):
        known = draw(st.booleans()) or draw(st.booleans())
        slots[f"s{number}"] = Slot.model_validate(
            {
                "part": draw(st.sampled_from(KEYS)) if known else "",
                "unknown": "" if known else "a box",
                "length": draw(st.one_of(st.none(), st.floats(0, 300).map(fact))),
                "turned": draw(st.booleans()),
                "capped": draw(st.booleans()),
                "upright": draw(st.booleans()),
                "seal": draw(st.sampled_from([None, "tape", "dry", "clamp"])),
            }
        )
    return Train(template=template, slots=slots, found=True, past_exhaust=draw(st.booleans()))


@settings(max_examples=150)
@given(trains(), st.sampled_from(["tiny", "inverter", "large", "great"]))
def test_any_train_is_judged_and_drawn(train, size):
    fuel = TEMPLATES[train.template].fuel
    pinned = {s.part: CATALOG.parts[s.part] for s in train.slots.values() if s.part}
    chosen = Choice(methods=(TEMPLATES[train.template].method,))
    update = {"trains": {str(fuel): train}, "parts": pinned, "choice": chosen}
    job = job_of(size).model_copy(update=update)
    plan = Plan(job, CATALOG)
    drawn = fuel_path_view.fuel_path(plan)
    parts_view.bill(plan)
    fuel_path_view.stack(plan)
    fit_view.fit(plan, {})
    ledger_view.ledger(plan)
    assert plan.of(open_items) is not None
    if not train.slots:
        return
    (one,) = drawn.trains
    assert [place.key for place in one.places] == list(train.slots)
    broken = [place for place in one.places if place.joint and not place.joint.mates]
    stops = [trouble for trouble in one.troubles if trouble.severity == "stop"]
    assert len(broken) <= len(stops)
    assert {item.key for item in plan.of(cautions) if item.key.startswith("train.")} >= {
        f"train.{fuel}.{trouble.rule}.{trouble.slot}" for trouble in stops
    }
