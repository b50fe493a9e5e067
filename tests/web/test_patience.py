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
from gentle_ember.web.patience import AT_ONCE, MOST_OF_ONE, Patience, PatientBody
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


def ask(app, address, length="5", body=None, method="POST"):
    told = []
    environ = {
        "REQUEST_METHOD": method,
        "CONTENT_LENGTH": length, "REMOTE_ADDR": address,
        "wsgi.input": body or io.BytesIO(b"12345"),
    }  # fmt: skip
    return b"".join(app(environ, lambda status, _head: told.append(status))), told


def test_bodies_that_still_come_are_counted_by_device_and_let_go():
    patient = Patience(
        lambda environ, start: [start("200 OK", []), environ["wsgi.input"].read()][1:]
    )
    held = [Stalled(b"12") for _ in range(MOST_OF_ONE)]
    answers = []
    at_work = [
        threading.Thread(target=lambda one=one: answers.append(ask(patient, "slow", "5", one)))
        for one in held
    ]
    for one in at_work:
        one.start()
    while sum(one.first == b"" for one in held) < MOST_OF_ONE:
        time.sleep(0.01)
    refused, told = ask(patient, "slow")
    assert told == ["503 Service Unavailable"] and json.loads(refused)["status"] == 503
    # Others are served, and so is a question without a body.
    assert ask(patient, "other")[0] == b"12345"
    assert ask(patient, "slow", length="0")[1] == ["200 OK"]
    for one in held:
        one.gone.set()
    for one in at_work:
        one.join()
    assert [one for one, _ in answers] == [b"12"] * MOST_OF_ONE
    assert ask(patient, "slow") == (b"12345", ["200 OK"])


def test_answers_are_worked_out_a_few_at_a_time_and_writes_hold_up_no_look():
    inside, most, at_once = threading.Semaphore(0), threading.Event(), []
    lock = threading.Lock()

    def app(environ, start):
        if environ["REQUEST_METHOD"] == "PATCH":
            with lock:
                at_once.append(1)
            inside.release()
            assert most.wait(60)
        start("200 OK", [])
        return [b"seen"]

    patient = Patience(app)
    writes = [
        threading.Thread(target=ask, args=(patient, f"d{n}", "5", None, "PATCH"))
        for n in range(AT_ONCE + 3)
    ]
    for one in writes:
        one.start()
    for _ in range(AT_ONCE):
        inside.acquire()
    time.sleep(0.1)
    assert len(at_once) == AT_ONCE
    seen = []
    look = threading.Thread(target=lambda: seen.append(ask(patient, "other", "0", None, "GET")))
    look.start()
    look.join(30)
    assert seen == [(b"seen", ["200 OK"])], "a look waits for no write"
    assert len(at_once) == AT_ONCE
    most.set()
    for one in writes:
        one.join()
    assert len(at_once) == AT_ONCE + 3


def test_a_body_that_stops_is_told_so_and_takes_no_turn(monkeypatch):
    monkeypatch.setattr(patience, "QUIET_S", 0.2)
    patient = Patience(lambda environ, start: pytest.fail("it was let in"))
    answer, told = ask(patient, "gone", length="100", body=Stalled(b"half"))
    assert told == ["408 Request Timeout"] and json.loads(answer)["status"] == 408


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
