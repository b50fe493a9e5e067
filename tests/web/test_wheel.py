"""What an installed copy is made of: a wheel carries the page, or is not made."""

from pathlib import Path

import pytest

from hatch_build import PAGE, PageHook


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
