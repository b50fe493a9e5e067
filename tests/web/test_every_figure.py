"""Every figure the service answers carries its working, in both systems of units."""

from __future__ import annotations

import re
from pathlib import Path
from typing import Any

import pytest

from gentle_ember.core.stages.intake.questions import ASKS
from gentle_ember.web.fields import job_fields
from gentle_ember.web.views.job import VIEWS
from tests.helpers.service import figures, ids, show, write

PAGES = {one.stem for one in (Path(__file__).parents[2] / "docs" / "engineering").glob("*.md")}
EVERY = ",".join(VIEWS)
JOBS = (
    "Lambing",
    "Cinema",
    "Honey",
    "Star-party",
    "Cider",
    "Tool",
    "Choir",
    "Clock-tower",
    "Weir",
)
ROUNDED_PARTS = 2e-2
OF_A_CASE = (
    "path.", "help.", "gain.", "left.", "run.", "sketch.", "method.", "fit.time", "output.biogas",
    "starting.biogas", "mount.bolt",
)  # fmt: skip
"""Keys that name a place; what is there differs from job to job, and so does its label."""


@pytest.fixture(scope="module")
def answers(demo_data, tmp_path_factory):
    import shutil

    from gentle_ember.web.app import create_app

    folder = tmp_path_factory.mktemp("figures") / "data"
    client = create_app(Path(shutil.copytree(demo_data, folder))).test_client()
    found = {title: show(client, ids(client)[title], EVERY) for title in JOBS}
    for title in JOBS:
        cylinder = client.get(f"/api/jobs/{ids(client)[title]}/cylinder")
        if cylinder.status_code == 200:
            found[f"{title}, cylinder"] = cylinder.json
    return found


def all_of(answers: dict[str, Any]) -> list[dict[str, Any]]:
    return [one for answer in answers.values() for one in figures(answer)]


def test_there_are_figures_of_every_kind_of_page(answers):
    assert {title for title, one in answers.items() if list(figures(one))} == set(answers)


def test_each_names_its_method_its_source_and_a_page_that_is_there(answers):
    for one in all_of(answers):
        method = one["method"]
        assert method["name"] and method["formula"] and method["source"], one["key"]
        assert method["page"] in PAGES, (one["key"], method["page"])


def test_each_says_what_it_was_worked_out_from(answers):
    bare = {one["key"] for one in all_of(answers) if not one["inputs"]}
    assert bare == set()
    for one in all_of(answers):
        for row in one["inputs"]:
            assert row["label"] and row["us"] and row["metric"], (one["key"], row)
            assert "⟨" not in row["us"] + row["label"]


def test_each_is_read_in_both_systems_and_lies_in_its_band(answers):
    for one in all_of(answers):
        for system in ("us", "metric"):
            shown = one[system]
            assert shown["text"], one["key"]
            low, high = (
                float(shown[end].replace(",", "").replace("−", "-")) for end in ("low", "high")
            )
            value = float(shown["text"].replace(",", "").replace("−", "-"))
            spare = ROUNDED_PARTS * max(abs(low), abs(high), 1.0)
            assert low - spare <= value <= high + spare, (one["key"], shown)


def test_an_estimate_says_what_would_narrow_it(answers):
    silent = {
        one["key"] for one in all_of(answers)
        if one["estimated"] and not one["narrows"] and not one["rivals"]
        and one["us"]["low"] != one["us"]["high"]
    }  # fmt: skip
    assert silent == set()


def test_warnings_are_whole_sentences_and_hide_nothing_for_machines(answers):
    warned = [text for one in all_of(answers) for text in one["warnings"]]
    assert warned
    for text in warned:
        assert text[0].isupper() or text[0].isdigit(), text
        assert "=" not in text
        assert text.endswith((".", "!")) or ", measured " in text, text


def test_one_label_for_one_figure(answers):
    """The same key is called the same wherever it is shown."""
    labels: dict[str, set[str]] = {}
    for one in all_of(answers):
        if not one["key"].startswith(OF_A_CASE):
            labels.setdefault(one["key"], set()).add(one["label"])
    assert {key: names for key, names in labels.items() if len(names) > 1} == {}


def field_at(path: str) -> dict[str, str] | None:
    """What the job's field at a path is called, its dictionary keys standing for themselves."""
    parts = path.split(".")
    for pattern, field in job_fields().items():
        wanted = pattern.split(".")
        if len(wanted) == len(parts) and all(
            key in ("*", part) for key, part in zip(wanted, parts, strict=True)
        ):
            return field
    return None


def test_one_label_for_one_fact_from_its_field_to_the_working(answers):
    """A fact in a working is called as the field it was typed in.

    What is said in words of a fact (taken as, too near the edge of) is no label of it.
    """
    other = {
        (row["path"], row["label"])
        for one in all_of(answers)
        for row in one["inputs"]
        if row["path"] and (field := field_at(row["path"]))
        and row["label"] != "taken" and ": " not in row["label"]
        and row["label"].casefold() != field["label"].casefold()
    }  # fmt: skip
    assert other == set()


def test_a_question_at_the_machine_is_called_as_the_field_it_fills():
    several_alike = "set.carburetor.jets."
    other = {
        (ask.path, ask.label)
        for ask in ASKS
        if not ask.path.startswith(several_alike)
        and (field := field_at(ask.path)) and field["label"] != ask.label
    }  # fmt: skip
    assert other == set()


def test_the_page_takes_a_quantitys_label_from_its_field():
    """A label of its own only tells one of several alike from the others."""
    pages = Path(__file__).parents[2] / "frontend" / "src"
    alike = ("number`", "wide`", "high`", "volts_a`", "amps_a`", "ask.path", "gas.signal")
    given = [
        (one.name, " ".join(tag.split()))
        for one in pages.rglob("*.svelte")
        for tag in re.findall(r"<QuantityField\b.*?/>", one.read_text("utf-8"), re.S)
        if re.search(r"\slabel=", tag) and not any(name in tag for name in alike)
    ]
    assert given == []


def test_an_error_names_its_field_by_the_fields_label(answers, demo_client):
    job = ids(demo_client)["Lambing"]
    for path in ("set.running", "set.tank", "sites.s1.coldest"):
        refused = write(demo_client, job, {"path": path, "typed": "1e9"})
        (error,) = refused.json["errors"]
        assert error["path"] == path
        assert field_at(path)["label"].casefold() in error["message"].casefold()
