"""A real server process on its own data folder, and how Chromium is started against it."""

from __future__ import annotations

import http.client
import os
import shutil
import signal
import socket
import ssl
import subprocess
import sys
from pathlib import Path

from playwright.sync_api import Page

CHROMIUM = shutil.which("chromium-headless-shell") or shutil.which("chromium")
"""Debian's Chromium; the one without a window of its own takes a third less time."""
CHROMIUM_ARGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--no-first-run",
]


class Server:
    """`gentle-ember serve` on a data folder; killed and started again by tests that need it."""

    def __init__(
        self, data: Path, *options: str, backed_up: bool = False, python: str = sys.executable,
        environment: dict[str, str] | None = None,
    ) -> None:  # fmt: skip
        self.data, self.python, self.environment = data, python, environment
        self.options = options if backed_up else (*options, "--no-backups")
        with socket.socket() as probe:
            probe.bind(("127.0.0.1", 0))
            self.port = probe.getsockname()[1]
        self.url = f"http://127.0.0.1:{self.port}"
        self.start()

    def start(self) -> None:
        command = [self.python, "-m", "gentle_ember.cli", "serve", "--data", str(self.data)]
        self.process = subprocess.Popen(
            [*command, "--port", str(self.port), *self.options],
            stdout=subprocess.DEVNULL,
            start_new_session=True,
            env=self.environment,
        )
        for _ in range(600):
            try:
                line = self._line()
                line.request("GET", "/api/health")
                line.getresponse().read()
                return
            except OSError:
                try:
                    self.process.wait(0.1)
                except subprocess.TimeoutExpired:
                    continue
                raise RuntimeError("the server ended at once") from None
        raise RuntimeError("the server did not start")

    def _line(self) -> http.client.HTTPConnection:
        """A connection to ask whether it answers; who it is, a test asks by its own means."""
        if "--lan" in self.options:
            anyone = ssl._create_unverified_context()  # noqa: S323
            return http.client.HTTPSConnection("127.0.0.1", self.port, timeout=0.5, context=anyone)
        return http.client.HTTPConnection("127.0.0.1", self.port, timeout=0.5)

    def kill(self) -> None:
        """As a power cut would: no chance to finish anything."""
        os.killpg(self.process.pid, signal.SIGKILL)
        self.process.wait()


def settled(page: Page) -> None:
    """Wait for the page's own mark that nothing is on its way and what came is drawn."""
    page.wait_for_selector("html[data-settled]", state="attached")
    page.evaluate("document.fonts.ready.then(() => true)")
