"""What an installed copy is made of: a wheel carries the page, or is not made."""

import json
from pathlib import Path

import pytest

from gentle_ember import cli
from hatch_build import PAGE, PageHook

ROOT = Path(__file__).parents[2]


def hook(root):
    return PageHook(str(root), {}, None, None, str(root), "wheel")


def test_a_wheel_from_a_checkout_without_its_page_is_refused_by_name(tmp_path):
    with pytest.raises(FileNotFoundError, match="The page is not built"):
        hook(tmp_path).initialize("standard", {})


def test_an_editable_install_needs_no_page(tmp_path):
    hook(tmp_path).initialize("editable", {})


def test_with_its_page_built_a_wheel_is_made(tmp_path):
    page = tmp_path / PAGE
    page.parent.mkdir(parents=True)
    page.write_text("<!doctype html>")
    hook(tmp_path).initialize("standard", {})


def test_the_page_is_looked_for_where_it_is_served_from():
    from gentle_ember.web import app

    served = Path(app.__file__).parent / "static" / "index.html"
    assert served.resolve() == PAGE.resolve()


def instructions():
    """The container file's instructions, continued lines joined."""
    text = (ROOT / "Containerfile").read_text().replace("\\\n", " ")
    return [line.split(None, 1) for line in text.splitlines() if line and not line.startswith("#")]


def test_the_container_copies_what_there_is_and_runs_as_nobody():
    found = instructions()
    for name, rest in found:
        if name == "COPY" and not rest.startswith("--from"):
            for source in rest.split()[:-1]:
                assert (ROOT / source).exists(), source
    assert ["USER", "nobody"] in found and ["VOLUME", "/shop"] in found
    entry = json.loads(next(rest for name, rest in found if name == "ENTRYPOINT"))
    assert entry[0] == "gentle-ember"
    for options in ([], ["--lan"]):
        parsed = cli._parser().parse_args([*entry[1:], *options])
        assert (parsed.command, str(parsed.data), parsed.port) == ("serve", "/shop", cli.PORT)
    assert f"{cli.PORT}" in next(rest for name, rest in found if name == "HEALTHCHECK")
