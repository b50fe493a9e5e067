"""A fifth fuel, made up and added in a copy of the program: it shows up everywhere, a job is driven
on it from intake to its end, and what holds for every fuel holds for it.

What its adding takes is told by `ADDED`; that parts are for it is the makers' to say, in the
catalog's rows.
"""

import json
import os
import re
import shutil
import subprocess
import sys
from pathlib import Path

import gentle_ember

FIFTH = "mine_gas"
ADDED = {
    "core/physics/fuels.py": (
        ('    BIOGAS = "biogas"\n', '    BIOGAS = "biogas"\n    MINE_GAS = "mine_gas"\n'),
        ("}  # fmt: skip\n\"\"\"Every fuel's.",
         '    FuelKey.MINE_GAS: FuelFacts("mine gas", "M", (0.68, 0.73, 0.78), 0.06, 0.55, 2.2, '
         "0.43, 1.3e-5, heats=1.32),\n}  # fmt: skip\n\"\"\"Every fuel's."),
        ("    FuelKey.BIOGAS: biogas(USUAL_METHANE),\n",
         "    FuelKey.BIOGAS: biogas(USUAL_METHANE),\n    FuelKey.MINE_GAS: Fuel(FuelKey.MINE_GAS, "
         '"mine gas", "M", 16.0e6, 17.8e6, 1.16, 5.5, 2.98e6, 0.09, 0.28),\n'),
    ),
    "core/job/handling.py": (
        ('        ("Gas dry and scrubbed; water out of the drip leg.",), Hatch.DOTTED,\n    ),\n',
         '        ("Gas dry and scrubbed; water out of the drip leg.",), Hatch.DOTTED,\n    ),\n'
         '    FuelKey.MINE_GAS: Handling(FuelSource.DIGESTER, "m", "Mine gas train", "Shut-off at '
         'the well", "the shut-off at the well", Lies.HIGH, "", ("Drip leg empty.",), '
         "Hatch.LEVEL),\n"),
    ),
    "core/job/job.py": (
        ("    biogas: bool = False\n", "    biogas: bool = False\n    mine_gas: bool = False\n"),
    ),
}  # fmt: skip
"""Files touched, and what each line becomes."""
MOST_FILES = 3
ROOT = Path(__file__).parents[2]
EVERYWHERE = ROOT / "tests" / "core" / "test_fuels_everywhere.py"


def copied(to: Path) -> None:
    """The program with a fuel more."""
    source = Path(gentle_ember.__file__).parent
    leave = shutil.ignore_patterns("__pycache__", "static", "published")
    shutil.copytree(source, to / "gentle_ember", ignore=leave)
    for name, changes in ADDED.items():
        path = to / "gentle_ember" / name
        text = path.read_text("utf-8")
        for was, now in changes:
            assert text.count(was) == 1, (name, was)
            text = text.replace(was, now)
        path.write_text(text, "utf-8")
    for rows in (to / "gentle_ember" / "catalog" / "data" / "parts").glob("*.csv"):
        text = rows.read_text("utf-8")
        rows.write_text(re.sub(r"\bbiogas\b", f"biogas {FIFTH}", text), "utf-8")


def with_it(copy: Path, *command: str) -> str:
    """What Python prints with the copy in place of the program."""
    ways = os.pathsep.join((str(copy), str(ROOT)))
    done = subprocess.run(
        [sys.executable, *command], env={**os.environ, "PYTHONPATH": ways}, cwd=copy,
        capture_output=True, text=True, check=False, timeout=300,
    )  # fmt: skip
    assert done.returncode == 0, (done.stdout + done.stderr)[-3000:]
    return done.stdout


def test_a_fifth_fuel_takes_three_files_and_a_job_runs_on_it_to_its_end(demo_copy, tmp_path):
    assert len(ADDED) <= MOST_FILES
    copied(tmp_path)
    found = json.loads(with_it(tmp_path, __file__, str(demo_copy)))
    assert found["package"].startswith(str(tmp_path))
    assert set(found["stages"].values()) <= {"done", "left_out", "under_way", "open", "not_started"}
    assert all(found["stages"][key] == "done" for key in ("fuel_path", "prove_tight", "load_test"))
    assert found["proven"] == [FIFTH]
    assert found["missing"] == {}, "views and answers that do not know it"
    with_it(tmp_path, "-m", "pytest", "-q", "-p", "no:cacheprovider", str(EVERYWHERE))


def drive(data: Path) -> None:
    """Within the copy: the cider barn's job with its digester's gas taken for a mine's."""
    from gentle_ember.core.job.job import Job
    from gentle_ember.core.quick.answers import ANSWERS
    from gentle_ember.web.app import create_app
    from gentle_ember.web.published import lists
    from tests.helpers.service import ids
    from tests.helpers.technician import Technician

    client = create_app(data).test_client()
    cider = client.get(f"/api/jobs/{ids(client)['Cider']}").json["job"]
    told = json.loads(re.sub(r"\bbiogas\b", FIFTH, json.dumps(cider)))
    told |= {"title": "Pithead canteen", "stages": {}, "trains": {}, "fit": {}, "proof": {},
             "starts": {}, "metering": {}, "load_tests": {}, "parts": {}, "confirmed": {},
             "choice": {}, "set": {**told["set"], "dual_fuel": False}}  # fmt: skip
    told["set"].pop("dual_fuel")
    jobs = client.application.extensions["gentle_ember"].jobs
    made = jobs.create(Job.model_validate(told).model_dump(mode="json"), "RK")
    work = Technician(client, made.id)
    work.sign("intake")
    work.choose("spacer_adapter")
    work.sign("method")
    work.build(f"spacer_adapter-digester-{FIFTH}")
    work.rest()
    views = ("output", "methods", "states", "path", "fit", "proofs", "starts", "metering",
             "load_tests", "cards", "bill")  # fmt: skip
    seen = {view: json.dumps(work.see(view)[view]) for view in views}
    seen |= {key: json.dumps(rows) for key, rows in lists().items()
             if key in ("FUELS", "GAS_KINDS", "BURNS")}  # fmt: skip
    forms = {
        answer.key: str([field.options for field in answer.fields if field.name == "gas"])
        for answer in ANSWERS.values() if any(field.name == "gas" for field in answer.fields)
    }  # fmt: skip
    known = ("mine_gas", "mine gas", "Mine gas")
    missing = {key: text[:80] for key, text in {**seen, **forms}.items()
               if not any(name in text for name in known)}  # fmt: skip
    print(json.dumps({
        "package": __import__("gentle_ember").__file__, "missing": missing,
        "stages": {one["key"]: one["state"] for one in work.see()["route"]},
        "proven": [one["fuel"] for one in work.see("proofs")["proofs"] if not one["forbidden"]],
    }))  # fmt: skip


if __name__ == "__main__":
    drive(Path(sys.argv[1]))
