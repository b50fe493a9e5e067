"""The unit that serves a shop: what it runs, what it may write to, and words it must quote."""

import configparser
import shlex
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from gentle_ember import cli
from gentle_ember.service import STOP_S, quoted, unit


def read(text):
    parser = configparser.RawConfigParser(strict=True)
    parser.optionxform = str
    parser.read_string(text)
    return parser


def words(line):
    """A command as systemd takes it apart: quotes, then what stands doubled."""
    return [one.replace("%%", "%").replace("$$", "$") for one in shlex.split(line)]


def test_it_serves_the_folder_and_may_write_nowhere_else(tmp_path):
    found = read(unit(tmp_path, 8765, lan=False, python=Path("/opt/ember/bin/python")))
    service = found["Service"]
    assert words(service["ExecStart"]) == [
        "/opt/ember/bin/python", "-m", "gentle_ember.cli", "serve", "--data", str(tmp_path),
        "--port", "8765",
    ]  # fmt: skip
    assert service["ReadWritePaths"] == str(tmp_path)
    assert (service["ProtectSystem"], service["NoNewPrivileges"]) == ("strict", "yes")
    assert (service["UMask"], service["TimeoutStopSec"]) == ("0077", str(STOP_S))
    assert found["Install"]["WantedBy"] == "multi-user.target"
    assert "--lan" in words(read(unit(tmp_path, 1, lan=True))["Service"]["ExecStart"])


@given(st.text(st.characters(codec="utf-8", categories=("L", "N", "P", "S", "Zs")), min_size=1))
def test_any_word_comes_back_as_it_was(text):
    if not text.isprintable():
        with pytest.raises(ValueError, match="can't hold"):
            quoted(text)
        return
    assert words(quoted(text)) == [text]
    assert shlex.split(quoted(text, command=False).replace("%%", "%")) == [text]


@pytest.mark.parametrize("path", ["/srv/a\nExecStart=/bin/sh", "/srv/\x00", "/srv/\r"])
def test_a_path_that_would_write_another_line_is_refused(path):
    with pytest.raises(ValueError, match="can't hold"):
        unit(Path(path), 8765, lan=False)


def test_the_command_prints_it_and_makes_the_folder_it_is_for(tmp_path, capsys):
    data = tmp_path / "my shop"
    assert cli.main(["service", "--data", str(data), "--port", "9000", "--lan"]) == 0
    service = read(capsys.readouterr().out)["Service"]
    assert words(service["ExecStart"])[-5:] == ["--data", str(data), "--port", "9000", "--lan"]
    assert data.is_dir()
