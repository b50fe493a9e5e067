"""Lines no test would miss: a module is changed a little at a time, and the tests are run.

`python tools/mutants.py core/physics/jets.py tests/core/test_jets.py …` works on a copy of the
tree, in which the mutation-testing package changes the module; without tests named, those of the
core that import it are taken. What no test noticed is printed as it was changed. Changed wording
is left out: sentences are read by people and held by the word list.
"""

from __future__ import annotations

import re
import shutil
import subprocess
import sys
import tempfile
from pathlib import Path

ROOT = Path(__file__).parents[1]
PACKAGE = Path("src/gentle_ember")
COPIED = ("src", "tests", "docs", "pyproject.toml")
LEFT_OUT = shutil.ignore_patterns("__pycache__", "static", "browser", "bench", "screenshots")
CONFIG = """
[tool.mutmut]
source_paths = ["src"]
only_mutate = ["{module}"]
also_copy = ["tests", "docs", "pyproject.toml"]
pytest_add_cli_args = ["-p", "no:cacheprovider", "-q", "-x", "--hypothesis-seed=0"]
pytest_add_cli_args_test_selection = [{tests}]
"""
WORDING = re.compile(r"XX|[\"'][^\"']* [^\"']*[\"']")
OUTCOMES = {"killed": "🎉", "survived": "🙁", "no tests": "🫥", "timeout": "⏰"}


def tests_of(module: Path) -> list[str]:
    """Tests of the core that import a module, and the module's own examples."""
    named = re.compile(rf"import [^\n]*\b{module.stem}\b|\.{module.stem} import")
    found = [
        str(one.relative_to(ROOT))
        for one in sorted((ROOT / "tests" / "core").glob("test_*.py"))
        if named.search(one.read_text("utf-8"))
    ]
    return [*found, str(module)]


def told(folder: Path, *command: str | Path) -> str:
    """What a command prints, run in a folder."""
    made = subprocess.run(
        command, cwd=folder, check=False, text=True, stdout=subprocess.PIPE,
        stderr=subprocess.STDOUT,
    )  # fmt: skip
    return made.stdout


def survivors(folder: Path, mutmut: Path) -> list[str]:
    """What was changed and not noticed, as differences of lines."""
    listed = told(folder, mutmut, "results")
    names = [line.split(":")[0].strip() for line in listed.splitlines() if ":" in line]
    found = []
    for name in names:
        shown = told(folder, mutmut, "show", name)
        lines = [
            line
            for line in shown.splitlines()
            if line[:1] in "+-" and line[:3] not in ("---", "+++")
        ]
        if lines and not any(WORDING.search(line) for line in lines):
            found.append(f"{name}\n" + "\n".join(lines))
    return found


def main(arguments: list[str]) -> int:
    """Run it and print the score; 1 when the module or the tests cannot be run."""
    if not arguments:
        print(__doc__)
        return 1
    module = PACKAGE / arguments[0].removeprefix(f"{PACKAGE}/")
    if not (ROOT / module).is_file():
        print(f"There is no {module}.")
        return 1
    tests = arguments[1:] or tests_of(module)
    mutmut = Path(sys.executable).with_name("mutmut")
    with tempfile.TemporaryDirectory() as made:
        folder = Path(made)
        for name in COPIED:
            one = ROOT / name
            if one.is_dir():
                shutil.copytree(one, folder / name, ignore=LEFT_OUT)
            else:
                shutil.copy(one, folder / name)
        listed = ", ".join(f'"{one}"' for one in tests)
        with (folder / "pyproject.toml").open("a", encoding="utf-8") as file:
            file.write(CONFIG.format(module=module, tests=listed))
        run = told(folder, mutmut, "run", "--max-children", "2")
        counts = {name: int(m[1]) for name, sign in OUTCOMES.items()
                  if (m := re.search(rf"{sign} *(\d+)(?!.*{sign})", run, re.S))}  # fmt: skip
        if not counts:
            print(run[-3000:])
            return 1
        found = survivors(folder, mutmut)
        for one in found:
            print(one, end="\n\n")
        scores = ", ".join(f"{name} {count}" for name, count in counts.items())
        print(f"{module}: {scores}; not noticed and no wording: {len(found)}.")
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
