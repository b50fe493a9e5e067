"""One server a folder and a port; told to end, killed or hung up on, nothing is left."""

import http.client
import json
import os
import signal
import subprocess
import sys
import time
from pathlib import Path

import pytest

from gentle_ember import cli
from gentle_ember.serving import ServedError, check_free, claimed
from gentle_ember.store.database import DATABASE_NAME
from tests.helpers.serving import Server

ENDS_S = 8.0


CLAIM = """
import sys
from pathlib import Path
from gentle_ember.serving import claimed
with claimed(Path(sys.argv[1])):
    pass
"""


def test_a_folder_is_one_processs_alone_and_free_again_after(tmp_path):
    folder = tmp_path / "shop"
    with claimed(folder, "http://127.0.0.1:1"):
        told = pytest.raises(ServedError, match=r"at http://127\.0\.0\.1:1: one server")
        with told, claimed(folder):
            pass
        other = subprocess.run(
            [sys.executable, "-c", CLAIM, str(folder)], capture_output=True, check=False
        )
        assert b"served already" in other.stderr
    with claimed(folder):
        pass
    assert [one.name for one in folder.iterdir()] in ([], ["serving.lock"])


@pytest.fixture
def served(tmp_path):
    server = Server(tmp_path / "shop")
    yield server
    if server.process.poll() is None:
        server.kill()


def workers(server):
    found = subprocess.run(
        ["ps", "-o", "pid=", "--ppid", str(server.process.pid)],
        capture_output=True, text=True, check=False,
    )  # fmt: skip
    return [int(one) for one in found.stdout.split()]


def alive(pid):
    try:
        os.kill(pid, 0)
    except ProcessLookupError:
        return False
    stat = Path(f"/proc/{pid}/stat").read_text("ascii")
    return stat.rpartition(")")[2].split()[0] != "Z"


def until(true):
    end = time.monotonic() + ENDS_S
    while time.monotonic() < end:
        if true():
            return True
        time.sleep(0.1)
    return False


def stream(server):
    """A page's event stream, left open."""
    line = http.client.HTTPConnection("127.0.0.1", server.port, timeout=5)
    line.request("POST", "/api/jobs", '{"title": "A set", "key": "a-key-of-a-test"}',
                 {"Content-Type": "application/json"})  # fmt: skip
    job = json.loads(line.getresponse().read())["id"]
    line.request("GET", f"/api/jobs/{job}/events")
    return line, line.getresponse()


def test_a_second_server_is_refused_by_name_on_its_folder_and_on_its_port(served, tmp_path, capsys):
    with pytest.raises(ServedError, match=f"Port {served.port} is taken"):
        check_free("127.0.0.1", served.port)
    again = ["serve", "--data", str(tmp_path / "shop"), "--port", "1"]
    assert cli.main(again) == 1
    assert f"served already, at {served.url}" in capsys.readouterr().err
    fresh = ["demo", "--data", str(tmp_path / "shop"), "--port", "1", "--fresh"]
    assert cli.main(fresh) == 1
    other = ["serve", "--data", str(tmp_path / "other"), "--port", str(served.port)]
    assert cli.main(other) == 1
    assert "is taken by another program" in capsys.readouterr().err
    assert (tmp_path / "shop" / DATABASE_NAME).exists()


@pytest.mark.parametrize("how", [signal.SIGINT, signal.SIGTERM, signal.SIGHUP])
def test_told_to_end_it_ends_though_a_page_is_open(served, how):
    line, answer = stream(served)
    assert answer.status == 200
    left = workers(served)
    assert left
    served.process.send_signal(how)
    assert until(lambda: served.process.poll() is not None)
    assert until(lambda: not any(alive(pid) for pid in left))
    line.close()


def test_killed_it_leaves_no_worker_behind_and_its_folder_free(served, tmp_path):
    left = workers(served)
    assert left
    served.process.kill()
    served.process.wait()
    assert until(lambda: not any(alive(pid) for pid in left))
    with claimed(tmp_path / "shop"):
        pass


def test_serving_and_the_demo_have_ports_of_their_own():
    parser = cli._parser()
    ports = {one: parser.parse_args([one]).port for one in ("serve", "demo")}
    assert len(set(ports.values())) == 2
