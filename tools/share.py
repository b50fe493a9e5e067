"""The share of tests among all lines of code, held over the floor of `pyproject.toml`.

Counts what a person wrote: no blank lines, nothing generated, locked or of documentation.
"""

from __future__ import annotations

import subprocess
import sys
import tomllib
from pathlib import Path

ENDINGS = (".py", ".ts", ".svelte", ".css", ".js")
GENERATED = ("frontend/src/lib/api/schema.d.ts", "frontend/src/lib/api/published.ts")
TESTS = ("tests/", "frontend/tests/")


def counted(root: Path) -> tuple[int, int]:
    """Lines of tests, and of all code."""
    listed = ["git", "ls-files", "-z", "--cached", "--others", "--exclude-standard"]
    found = subprocess.run(listed, cwd=root, capture_output=True, text=True, check=True).stdout
    tests = everything = 0
    for name in found.split("\0"):
        if not name.endswith(ENDINGS) or name in GENERATED or not (root / name).is_file():
            continue
        text = (root / name).read_text("utf-8")
        lines = sum(bool(line.strip()) for line in text.splitlines())
        everything += lines
        tests += lines if name.startswith(TESTS) else 0
    return tests, everything


def main() -> int:
    """Print the share; 1 when it is under the floor."""
    root = Path(__file__).parents[1]
    floor = tomllib.loads((root / "pyproject.toml").read_text("utf-8"))["tool"]["gentle-ember"]
    tests, everything = counted(root)
    share = 100 * tests / everything
    print(f"Tests are {tests} of {everything} lines of code: {share:.1f} %.")
    if share < floor["least-share-of-tests"]:
        print(f"That is under the floor of {floor['least-share-of-tests']} % in pyproject.toml.")
        return 1
    return 0


if __name__ == "__main__":
    sys.exit(main())
