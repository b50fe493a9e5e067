"""Schools: every one on every class, reasons tied to facts, what a measurement resolves."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from sqlalchemy import select

from gentle_ember.catalog import load
from gentle_ember.core.estimates.measured import output_here
from gentle_ember.core.physics import studs
from gentle_ember.core.physics.fuel_use import SetClass
from gentle_ember.core.physics.fuels import FuelKey
from gentle_ember.core.plan import plan
from gentle_ember.core.route import cautions, contradictions, open_items
from gentle_ember.core.stages.fit.sheet import fit_sheet
from gentle_ember.core.stages.fuel_path.parts_list import parts_list
from gentle_ember.core.stages.intake.alike import likeness
from gentle_ember.core.stages.intake.questions import ASKS, asked
from gentle_ember.core.stages.intake.walk_round import walk_tasks
from gentle_ember.core.stages.method.base import Case, Verdict
from gentle_ember.core.stages.method.judged import judged_methods
from gentle_ember.core.stages.method.networks import fuel_states
from gentle_ember.core.stages.method.registry import SCHOOLS, clashes
from gentle_ember.store.database import open_engine
from gentle_ember.store.jobs import open_jobs
from gentle_ember.store.models import JobRow
from tests.helpers.facts import variants, with_value
from tests.helpers.fits import SNORKEL, fitted
from tests.helpers.jobs import fact, job, known
from tests.helpers.sound import put

CATALOG = load()


def verdict(of, key):
    return plan(of, CATALOG).of(judged_methods).of(key).verdict


FITS, WORK, NO = Verdict.FITS, Verdict.WORK, Verdict.NO
# class: inverter_small, inverter, open_frame, v_twin (two barrels), low_speed, dual_fuel (its own),
# engine
TABLE = {
    "spacer_adapter": (FITS, FITS, FITS, NO, FITS, WORK, FITS),
    "snorkel": (NO, NO, WORK, NO, WORK, NO, WORK),
    "multi_fuel_carburetor": (NO, NO, FITS, NO, FITS, NO, FITS),
    "exchanged_carburetor": (FITS, FITS, FITS, NO, FITS, NO, FITS),
    "two_barrel_adapter": (NO, NO, NO, FITS, NO, NO, NO),
    "second_gas": (NO, NO, NO, NO, NO, FITS, NO),
    "remote_tank_gravity": (FITS, FITS, FITS, FITS, FITS, FITS, FITS),
    "remote_tank_pump": (WORK, WORK, WORK, WORK, WORK, WORK, WORK),
    "rejet": (FITS, FITS, FITS, WORK, FITS, WORK, FITS),
    "leave_it": (NO, NO, NO, NO, NO, NO, NO),
    "battery": (WORK, WORK, WORK, WORK, WORK, WORK, NO),
    "gas_only_set": (NO, NO, NO, NO, NO, NO, NO),
    "soft_starter": (NO, NO, NO, NO, NO, NO, NO),
    "bigger_set": (NO, NO, NO, NO, NO, NO, NO),
}


@pytest.mark.parametrize(("column", "set_class"), list(enumerate(SetClass)))
def test_every_school_on_every_class(column, set_class):
    carburetor = {SetClass.V_TWIN: "two_barrel", SetClass.DUAL_FUEL: "multi_fuel"}
    of = known(
        set__set_class=str(set_class),
        set__cylinders=2,
        set__carburetor__type=carburetor.get(set_class, "float"),
        sites__s1__gases={"g1": {"kind": "natural_gas", "pressure": fact(1744.0)}},
        load__planned=fact(600.0),
        wants__natural_gas=True,
    )
    found = {one.school.key: one.verdict for one in plan(of, CATALOG).of(judged_methods).judged}
    assert found == {key: row[column] for key, row in TABLE.items()}
    assert set(TABLE) == set(SCHOOLS)


@pytest.fixture(scope="module")
def jobs_of_the_demo(demo_data):
    store = open_jobs(open_engine(demo_data), CATALOG)
    with store.reading.begin() as session:
        found = [store.get(job_id).job for job_id in session.scalars(select(JobRow.id))]
    biogas = {"g1": {"kind": "biogas", "pressure": fact(600.0), "sulfide": fact(500e-6),
                     "cleaned": False}}  # fmt: skip
    plain = job(set__running=fact(3000.0))
    return [
        *found,
        known(),
        plain,
        known(sites__s1__gases=biogas, wants__biogas=True),
        known(
            wants__elevation=True,
            set__carburetor__jets={
                name: {"number": fact(number)}
                for name, number in (("believed", 92.0), ("published", 88.0), ("stamped", 90.0))
            },
        ),
        known(load__largest_start=fact(9000.0), load__planned=fact(4900.0)),
    ]


def reasons_at(of, key, path):
    return [
        (reason.verdict, reason.text)
        for reason in SCHOOLS[key].judge(Case(of, plan(of, CATALOG).of(output_here)))
        if reason.path == path
    ]


def test_flipping_a_fact_a_reason_cites_changes_the_reason(jobs_of_the_demo):
    stuck, tried = [], set()
    for of in jobs_of_the_demo:
        for one in plan(of, CATALOG).of(judged_methods).judged:
            for reason in one.reasons:
                if (one.school.key, reason.text) in tried:
                    continue
                tried.add((one.school.key, reason.text))
                before = reasons_at(of, one.school.key, reason.path)
                if not any(
                    reasons_at(other, one.school.key, reason.path) != before
                    for other in variants(of, reason.path)
                ):
                    stuck.append((of.title, one.school.key, reason.text, reason.path))
    assert stuck == []
    assert len(tried) > 150


def test_the_measurement_a_not_known_names_resolves_it(jobs_of_the_demo):
    open_still, tried = [], 0
    for of in jobs_of_the_demo:
        for one in plan(of, CATALOG).of(judged_methods).judged:
            for reason in one.reasons:
                if reason.verdict is not Verdict.UNKNOWN:
                    continue
                tried += 1
                answers = (
                    reasons_at(other, one.school.key, reason.path)
                    for other in variants(of, reason.path)
                )
                wanted = (Verdict.UNKNOWN, reason.text)
                if not any(wanted not in answer for answer in answers):
                    open_still.append((of.title, one.school.key, reason.text))
    assert open_still == []
    assert tried > 60


def fingerprint(of):
    found = plan(of, CATALOG)
    fuels = (
        [entry.running.value for entry in found.of(output_here).fuels]
        if found.of(output_here)
        else []
    )
    reference = known(
        set__maker="Drovane",
        set__model="Linnet 3200i",
        set__engine_family="D171",
        set__generation="something told",
        set__trim="something told",
        set__year=2019,
    )
    return (
        [(one.verdict, one.reasons) for one in found.of(judged_methods).judged],
        found.of(cautions),
        found.of(open_items),
        found.of(walk_tasks),
        found.of(fuel_states),
        fuels,
        [(one.step.key, one.step.what, one.step.why, one.step.measures)
         for one in found.of(fit_sheet).steps],
        [(one.part.key, one.count) for one in found.of(parts_list).lines],
        [str(error) for error in contradictions(of)],
        likeness(of.set, reference.set),
    )  # fmt: skip


def test_every_intake_question_feeds_some_rule(jobs_of_the_demo):
    engine = put(fitted(*SNORKEL), "set.set_class", "engine")
    jobs = [*jobs_of_the_demo, fitted(*SNORKEL), engine]
    shown = [(of, {ask.path for ask in asked(of)}, fingerprint(of)) for of in jobs]
    for ask in ASKS:
        assert any(ask.path in paths for _, paths, _ in shown), f"{ask.path} is never asked"
        assert any(
            fingerprint(other) != before
            for of, paths, before in shown
            if ask.path in paths
            for other in variants(of, ask.path)
        ), f"{ask.path} feeds nothing"


def test_a_stud_shortened_by_four_millimeters_turns_fits_into_work():
    assert verdict(known(), "spacer_adapter") is Verdict.FITS
    short = with_value(known(), "set.studs.stick_out", fact(0.038))
    judged = plan(short, CATALOG).of(judged_methods).of("spacer_adapter")
    assert judged.verdict is Verdict.WORK
    text = next(r.text for r in judged.reasons if r.path == "set.studs.stick_out")
    assert "back out 0.5 turns" in text
    assert "longer studs, 55 mm" in text
    assert [figure.key.split(".")[1] for figure in judged.figures] == ["engagement", "turns"]
    shallow = with_value(short, "set.studs.thread_depth", fact(0.009))
    text = next(
        r.text for r in plan(shallow, CATALOG).of(judged_methods).of("spacer_adapter").reasons
        if r.path == "set.studs.stick_out"
    )  # fmt: skip
    assert "would leave 8.5 mm of 9 mm" in text


lengths = st.floats(0.001, 0.08)


@given(lengths, lengths, st.floats(0.001, 0.03), st.floats(0.003, 0.008))
def test_longer_studs_never_hold_less_and_turns_mend_the_shortfall(stick, more, flange, nut):
    short = studs.StudJoint(0.006, 0.001, stick, nut, flange)
    longer = studs.StudJoint(0.006, 0.001, stick + more, nut, flange)
    assert studs.engagement(longer) >= studs.engagement(short)
    turns = studs.turns_out(studs.shortfall(short), short.pitch_m)
    mended = studs.StudJoint(0.006, 0.001, stick + turns * 0.001, nut, flange)
    assert studs.full_nut(mended)
    assert studs.engagement(mended) == pytest.approx(nut)
    assert turns * 0.001 - studs.shortfall(short) <= 0.00025 + 1e-9


def test_recommended_covers_what_is_asked_and_follows_the_facts():
    of = known(wants__remote_tank=True, wants__elevation=True)
    found = plan(of, CATALOG).of(judged_methods)
    assert found.recommended == ("spacer_adapter", "remote_tank_gravity", "rejet")
    assert clashes(found.recommended) == []
    two = known(set__carburetor__type="two_barrel", set__set_class="v_twin", set__cylinders=2)
    assert plan(two, CATALOG).of(judged_methods).recommended == ("two_barrel_adapter",)
    nothing = known(wants__propane=False)
    assert plan(nothing, CATALOG).of(judged_methods).recommended == ("leave_it",)


def test_rejudging_a_chosen_method_stops_the_stage():
    chosen = known(choice={"methods": ["spacer_adapter"], "by": "RK"})
    assert not [c for c in plan(chosen, CATALOG).of(cautions) if c.key.startswith("method.")]
    two = with_value(chosen, "set.carburetor.type", "two_barrel")
    stop = next(c for c in plan(two, CATALOG).of(cautions) if c.key == "method.spacer_adapter")
    assert (stop.severity, stop.stage) == ("stop", "method")


def test_rejet_puts_out_what_a_jet_for_here_gives_and_sizes_it():
    of = known(wants__elevation=True, sites__s1__elevation=fact(2450.0))
    found = plan(of, CATALOG)
    judged = found.of(judged_methods).of("rejet")
    assert judged.output.value > found.of(output_here).of(FuelKey.GASOLINE).running.value
    assert judged.figures[0].value == pytest.approx(90 * 0.941, abs=0.1)
