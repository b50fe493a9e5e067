"""What can be held here of running elsewhere: no call of one system alone, names any disk takes."""

import ast
from datetime import date
from pathlib import Path

import pytest

from gentle_ember.store import attachments
from gentle_ember.store.attachments import AttachmentStore
from gentle_ember.store.daily import daily
from gentle_ember.web.app import create_app
from gentle_ember.web.certificate import certificates
from tests.helpers.people import lead_first

SOURCES = sorted((Path(__file__).parents[1] / "src" / "gentle_ember").rglob("*.py"))
MODULES = {"fcntl", "grp", "posix", "pty", "pwd", "resource", "syslog", "termios"}
CALLS = {
    "os": {
        "chown", "fchmod", "fchown", "fork", "getegid", "geteuid", "getgid", "getuid", "killpg",
        "mkfifo", "nice", "setsid", "setuid", "statvfs", "sync", "uname", "wait", "waitpid",
    },
    "signal": {"SIGALRM", "SIGHUP", "SIGKILL", "SIGPIPE", "SIGUSR1", "SIGUSR2", "alarm", "pause"},
    "time": {"tzset"},
}  # fmt: skip
FORBIDDEN_IN_NAMES = set('<>:"|?*\\')


def of_one_system(tree):
    """Modules and calls that one kind of system alone has."""
    for node in ast.walk(tree):
        if isinstance(node, ast.Import):
            yield from (one.name for one in node.names if one.name in MODULES)
        elif isinstance(node, ast.ImportFrom) and node.module in MODULES:
            yield node.module
        elif (
            isinstance(node, ast.Attribute)
            and isinstance(node.value, ast.Name)
            and node.attr in CALLS.get(node.value.id, ())
        ):
            yield f"{node.value.id}.{node.attr}"


def test_nothing_is_called_that_one_system_alone_has():
    found = {path.name: list(of_one_system(ast.parse(path.read_text("utf-8")))) for path in SOURCES}
    assert {name: calls for name, calls in found.items() if calls} == {}


@pytest.mark.parametrize("text", ["import fcntl", "from pwd import getpwnam", "os.fork()"])
def test_the_search_finds_what_it_looks_for(text):
    assert list(of_one_system(ast.parse(text)))


def test_text_files_name_their_encoding():
    """Left out, it is the system's own, which is not the same everywhere."""
    bare = []
    for path in SOURCES:
        for node in ast.walk(ast.parse(path.read_text("utf-8"))):
            if isinstance(node, ast.Call) and isinstance(node.func, ast.Attribute):
                given = len(node.args) + len(node.keywords)
                least = {"read_text": 1, "write_text": 2}.get(node.func.attr, 0)
                if given < least:
                    bare.append(f"{path.name}:{node.lineno}")
    assert bare == []


def test_every_file_of_a_shop_has_a_name_any_disk_takes(demo_copy):
    client = create_app(demo_copy).test_client()
    assert client.post("/api/feed").status_code == 200
    lead_first(client)
    AttachmentStore(demo_copy).put(b"the plate")
    certificates(demo_copy / "tls", ("192.168.2.7",))
    assert daily(demo_copy, date(2026, 11, 27)) is not None
    held = [str(one.relative_to(demo_copy)) for one in demo_copy.rglob("*")]
    assert {Path(one).parts[0] for one in held} > {"attachments", "backups", "logs", "tls"}
    for path in held:
        for name in Path(path).parts:
            assert not set(name) & FORBIDDEN_IN_NAMES and not name.endswith((".", " ")), name
    # Two that differ in their case alone are one file on some disks.
    assert len(held) == len({one.casefold() for one in held})


def test_where_folders_are_not_opened_files_are_kept_all_the_same(tmp_path, monkeypatch):
    real = attachments.os.open

    def opened(path, *rest, **more):
        if Path(path).is_dir():
            raise PermissionError(path)
        return real(path, *rest, **more)

    monkeypatch.setattr(attachments.os, "open", opened)
    with pytest.raises(PermissionError):
        AttachmentStore(tmp_path).put(b"one")
    monkeypatch.setattr(attachments, "SYNCS_FOLDERS", False)
    store = AttachmentStore(tmp_path)
    assert store.get(store.put(b"two")) == b"two"
