"""Bodies that stop coming hold no worker: each is given up on, and a device sends few at a time."""

import http.client
import io
import json
import socket
import threading
import time

import pytest
from werkzeug.exceptions import RequestTimeout

from gentle_ember.web import patience
from gentle_ember.web.patience import MOST_OF_ONE, Patience, PatientBody
from tests.helpers.serving import Server


class Stalled:
    """A connection that gave some bytes, then nothing until it is let go."""

    def __init__(self, first=b""):
        self.first, self.gone = first, threading.Event()

    def read(self, _size):
        given, self.first = self.first, b""
        if not given:
            self.gone.wait(10)
        return given


def test_a_body_that_comes_is_read_whole_and_in_its_order():
    content = bytes(range(256)) * 2000
    assert PatientBody(io.BytesIO(content), len(content)).read() == content
    body = PatientBody(io.BytesIO(content), len(content))
    assert b"".join(iter(lambda: body.read(1000), b"")) == content
    assert PatientBody(io.BytesIO(b""), 0).read() == b""


def test_one_that_stops_coming_is_given_up_on():
    source = Stalled(b"half of it")
    body = PatientBody(source, 100, quiet_s=0.2)
    assert body.read(10) == b"half of it"
    begun = time.monotonic()
    with pytest.raises(RequestTimeout):
        body.read(10)
    assert time.monotonic() - begun < 5
    assert body.read(10) == b""
    source.gone.set()


def test_one_that_comes_a_byte_at_a_time_is_given_up_on_as_well(monkeypatch):
    class Trickle:
        def read(self, _size):
            time.sleep(0.02)
            return b"x"

    monkeypatch.setattr(patience, "SLOWEST", 1e9)
    body = PatientBody(Trickle(), 10_000, quiet_s=0.3)
    with pytest.raises(RequestTimeout):
        while body.read(1):
            pass


def test_a_device_that_is_gone_leaves_what_came():
    class Gone(Stalled):
        def read(self, size):
            if not self.first:
                raise OSError("reset")
            return super().read(size)

    assert PatientBody(Gone(b"abc"), 10).read() == b"abc"


def ask(app, address, length="5", body=None):
    told = []
    environ = {
        "CONTENT_LENGTH": length, "REMOTE_ADDR": address,
        "wsgi.input": body or io.BytesIO(b"12345"),
    }  # fmt: skip
    return b"".join(app(environ, lambda status, _head: told.append(status))), told


def test_bodies_under_way_are_counted_by_device_and_let_go():
    inside, most = threading.Semaphore(0), threading.Event()

    def app(environ, start):
        if environ["REMOTE_ADDR"] == "slow":
            inside.release()
            most.wait(10)
        start("200 OK", [])
        return [environ["wsgi.input"].read()]

    patient = Patience(app)
    at_work = [threading.Thread(target=ask, args=(patient, "slow")) for _ in range(MOST_OF_ONE)]
    for one in at_work:
        one.start()
        inside.acquire()
    refused, told = ask(patient, "slow")
    assert told == ["503 Service Unavailable"] and json.loads(refused)["status"] == 503
    # Others are served, and so is a question without a body.
    assert ask(patient, "other")[0] == b"12345"
    most.set()
    for one in at_work:
        one.join()
    assert ask(patient, "slow") == (b"12345", ["200 OK"])
    assert ask(patient, "slow", length="0")[1] == ["200 OK"]


def test_sixty_half_sent_uploads_do_not_stop_the_shop(tmp_path):
    server = Server(tmp_path / "shop")
    held = []
    try:
        for _ in range(60):
            line = socket.create_connection(("127.0.0.1", server.port))
            head = "POST /api/import HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 500000\r\n\r\n"
            line.sendall(head.encode() + b"x" * 1000)
            held.append(line)
        begun = time.monotonic()
        asked = http.client.HTTPConnection("127.0.0.1", server.port, timeout=20)
        asked.request("GET", "/api/board")
        assert asked.getresponse().status == 200
        assert time.monotonic() - begun < 10
    finally:
        for line in held:
            line.close()
        server.kill()
