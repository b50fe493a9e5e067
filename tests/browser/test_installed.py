"""An installed copy without Node, and a page that a newer server has overtaken."""

import json
import os
import shutil
import subprocess
import sys
import urllib.request
import venv
import zipfile
from contextlib import suppress
from pathlib import Path

from playwright.sync_api import expect

from tests.helpers.serving import Server

ROOT = Path(__file__).parents[2]


def built(tmp_path):
    """A wheel of the source distribution of this checkout, with the page in it."""
    make = [sys.executable, "-m", "hatchling", "build", "-d", str(tmp_path)]
    subprocess.run([*make, "-t", "sdist"], cwd=ROOT, check=True, capture_output=True)
    (source,) = tmp_path.glob("*.tar.gz")
    shutil.unpack_archive(source, tmp_path / "source", filter="data")
    (unpacked,) = (tmp_path / "source").iterdir()
    subprocess.run([*make, "-t", "wheel"], cwd=unpacked, check=True, capture_output=True)
    (wheel,) = tmp_path.glob("*.whl")
    return wheel


def test_a_wheel_of_the_source_distribution_runs_the_demo_without_node(tmp_path):
    wheel = built(tmp_path)
    names = zipfile.ZipFile(wheel).namelist()
    assert any(name.endswith("web/static/index.html") for name in names)
    assert not any("node_modules" in name or name.startswith("tests/") for name in names)
    # What it depends on comes from here: installing it is the lock's own work.
    here = tmp_path / "env"
    venv.create(here, with_pip=False)
    (site,) = (here / "lib").glob("python*/site-packages")
    zipfile.ZipFile(wheel).extractall(site)
    depends = [one for one in sys.path if one.endswith("site-packages")]
    environment = {
        "PATH": str(here / "bin"), "PYTHONPATH": os.pathsep.join([str(site), *depends]),
        "HOME": str(tmp_path),
    }  # fmt: skip
    python = str(here / "bin" / "python")
    asked = "import gentle_ember; print(gentle_ember.__file__)"
    found = subprocess.run(
        [python, "-c", asked], env=environment, cwd=tmp_path, capture_output=True, text=True,
        check=True,
    )  # fmt: skip
    assert found.stdout.startswith(str(site))
    assert shutil.which("node", path=environment["PATH"]) is None
    seed = [python, "-m", "gentle_ember.cli", "demo", "--seed-only", "--data", str(tmp_path / "d")]
    told = subprocess.run(
        seed, env=environment, cwd=tmp_path, capture_output=True, text=True, check=False
    )  # fmt: skip
    assert "9 jobs" in told.stdout, told.stderr
    server = Server(tmp_path / "d", python=python, environment=environment)
    try:
        page = urllib.request.urlopen(server.url).read().decode()
        script = page.split('href="/_app/immutable/')[1].split('"')[0]
        with urllib.request.urlopen(f"{server.url}/_app/immutable/{script}") as answer:
            assert answer.status == 200
        with urllib.request.urlopen(f"{server.url}/api/methods/jets") as answer:
            assert json.load(answer)
    finally:
        server.kill()


def test_a_page_of_an_older_server_says_so_and_loses_no_draft(bare_shop):
    shop, page = bare_shop, bare_shop.page
    page.clock.install()
    shop.open("Lambing", "intake/set")
    page.route(
        "**/_app/version.json",
        lambda route: route.fulfill(json={"version": "of another day"}),
    )
    shop.field("set.running").fill("31 somethings")
    newer = page.get_by_role("status").filter(has_text="A newer Gentle Ember is here")
    # A look for it that a busy machine breaks off is made again a minute later.
    for _ in range(3):
        page.clock.run_for(61_000)
        with suppress(AssertionError):
            expect(newer).to_be_visible(timeout=5_000)
            break
    expect(newer).to_be_visible()
    page.clock.resume()
    newer.get_by_role("button", name="Load it").click()
    expect(shop.field("set.running")).to_have_value("31 somethings")
