"""Everything a person reads is plain US English: one spelling, and none of the phrases refused."""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[1]
BRITISH = re.compile(
    r"\b(vapours?|aluminium|centres?|centred|callipers?|sulphides?|licences?|colours?|coloured|"
    r"metres?|litres?|millimetres?|anticlockwise|fire brigade|spanners?|grey|neighbours?|"
    r"favours?|modelling|labelled|programme|tyres?|[a-z]+fuell(ed|ing)|"
    r"(un)?stabilis\w+|(re|un)?organis\w+|recognis\w+|realis\w+|moulds?|kerbs?|odours?|fibres?|"
    r"practis\w+|[a-z]+isation|behaviours?|labours?|catalogues?|artefacts?)\b",
    re.I,
)
REFUSED = re.compile(
    r"\b(foretold|anew|mend(s|ed|ing)?)\b|not believed|[Ff]ound, not listed|a slip here|"
    r"Drop this train|Taken, not told|Customs of the place|Standing in\b|stands otherwise"
)
READS_BOTH = {"documents/jobfile.py"}
"""What was stored may be spelled either way; this reads it."""


def literals(path: Path) -> Iterator[tuple[int, str]]:
    """Strings a person may read: not docstrings, nor the strings under a constant."""
    tree = ast.parse(path.read_text(encoding="utf-8"))
    told = {
        id(node.value)
        for holder in ast.walk(tree)
        if isinstance(body := getattr(holder, "body", None), list)
        for node in body
        if isinstance(node, ast.Expr) and isinstance(node.value, ast.Constant)
    }
    for node in ast.walk(tree):
        words = isinstance(node, ast.Constant) and isinstance(node.value, str)
        if words and id(node) not in told and " " in node.value:
            yield node.lineno, node.value


def markup(path: Path) -> str:
    """What a component shows: its markup and the texts of its script, without comments."""
    text = path.read_text(encoding="utf-8")
    text = re.sub(r"<style>.*?</style>", "", text, flags=re.S)
    text = re.sub(r"/\*.*?\*/|<!--.*?-->|^\s*//.*$", "", text, flags=re.S | re.M)
    shown = re.findall(
        r">([^<>{}]*[a-z][^<>{}]*)<|'([^'\n]* [^'\n]*)'|\"([^\"\n]* [^\"\n]*)\"", text
    )
    return "\n".join("".join(one) for one in shown)


SOURCES = sorted((ROOT / "src" / "gentle_ember").rglob("*.py"))
COMPONENTS = sorted((ROOT / "frontend" / "src").rglob("*.svelte"))
PAGES = sorted((ROOT / "docs" / "engineering").glob("*.md"))


def test_one_spelling_in_every_source():
    found = []
    for path in (*SOURCES, *COMPONENTS, *PAGES):
        name = path.as_posix().split("gentle_ember/")[-1]
        if name in READS_BOTH:
            continue
        for number, line in enumerate(path.read_text(encoding="utf-8").splitlines(), 1):
            if BRITISH.search(line):
                found.append(f"{name}:{number}: {line.strip()[:80]}")
    assert found == []


def test_one_spelling_in_what_ships():
    data = (ROOT / "src" / "gentle_ember" / "catalog" / "data").rglob("*.*")
    found = [
        f"{path.name}: {word[0]}"
        for path in data if path.suffix in (".csv", ".toml")
        for word in BRITISH.finditer(path.read_text(encoding="utf-8"))
    ]  # fmt: skip
    assert found == []


NAMED = re.compile(r"\b(?!CoolProp\b)[A-Z][a-z]+[A-Z][A-Za-z]+\b")
"""A name of the program's own in a sentence: what renaming by a machine leaves behind.
A library that a figure comes from is named as it is."""


@pytest.mark.parametrize("never", [REFUSED, NAMED], ids=["phrase", "name of the program"])
@pytest.mark.parametrize("folder", ["core", "web", "documents", "instruments", "store", "units"])
def test_nothing_refused_stands_in_what_the_service_says(folder, never):
    found = [
        f"{path.name}:{number}: {text[:90]}"
        for path in SOURCES
        if f"gentle_ember/{folder}/" in path.as_posix()
        for number, text in literals(path)
        if never.search(text)
    ]
    assert found == []


def test_no_refused_phrase_in_what_the_page_shows():
    found = [
        f"{path.name}: {word[0]}" for path in COMPONENTS for word in REFUSED.finditer(markup(path))
    ]
    assert found == []


def test_the_finder_of_phrases_finds_one(tmp_path):
    bad = tmp_path / "bad.py"
    bad.write_text('"""Mended anew."""\nTEXT = "no load before it is mended"\n')
    assert [text for _, text in literals(bad) if REFUSED.search(text)] == [
        "no load before it is mended"
    ]
    assert NAMED.search("FuelSource still shut: soap on every joint opened today")
    assert not NAMED.search("Source still shut. Properties from CoolProp")
    page = tmp_path / "Bad.svelte"
    page.write_text("<!-- anew --><p>Lock it anew</p>\n<style>a{}</style>")
    assert REFUSED.search(markup(page))


def test_the_readme_shows_every_picture_and_names_no_other():
    readme = (ROOT / "README.md").read_text(encoding="utf-8")
    shown = set(re.findall(r"docs/screenshots/([a-z-]+\.png)", readme))
    kept = {path.name for path in (ROOT / "docs" / "screenshots").glob("*.png")}
    assert shown == kept
    assert len(kept) < 20


@pytest.mark.parametrize(
    "page", [ROOT / "README.md", ROOT / "CONTRIBUTING.md", *(ROOT / "docs").rglob("*.md")],
    ids=lambda page: page.relative_to(ROOT).as_posix(),
)  # fmt: skip
def test_what_a_page_links_to_is_there(page):
    text = page.read_text(encoding="utf-8")
    links = re.findall(r"\]\((?!https?:|mailto:|#|/)([^)#\s]+)", text)
    assert [link for link in links if not (page.parent / link).exists()] == []
