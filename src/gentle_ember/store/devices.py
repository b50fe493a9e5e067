"""Devices let in from the network: each by a token of its own, kept as its hash alone."""

from __future__ import annotations

import hashlib
import hmac
import json
import secrets
import time
from collections.abc import Callable
from dataclasses import asdict, dataclass, replace
from datetime import UTC, datetime
from pathlib import Path
from threading import Lock

from gentle_ember.store.attachments import write_whole
from gentle_ember.store.daybook import daybook
from gentle_ember.store.errors import NotFoundError
from gentle_ember.store.guesses import Guesses, TooManyGuessesError

CODE_S = 600.0
"""How long a pairing code stands once it was shown [s]."""
SEEN_S = 3600.0
"""How often it is written down that a device was there [s]."""
MOST_DEVICES = 200


class PairingError(ValueError):
    """The list of devices is not whole: nobody is let in by it."""


class WrongCodeError(ValueError):
    """A pairing code that is not, or no longer, the shop's."""


@dataclass(frozen=True, slots=True)
class Device:
    """A phone or a tablet that was let in."""

    key: str
    name: str
    digest: str
    """SHA-256 of its token, which the device alone holds."""
    since: str
    seen: str


def digest_of(token: str) -> str:
    """What is kept of a token."""
    return hashlib.sha256(token.encode("utf-8", "replace")).hexdigest()


class Door:
    """Who comes in from the network: by a code read off the shop's screen, once a device."""

    def __init__(self, data: Path, clock: Callable[[], float] = time.time) -> None:
        """Open the list of a data folder.

        Raises:
            PairingError: the list is there, and is not whole.
        """
        self.path = data / "tls" / "devices.json"
        self._clock, self._lock = clock, Lock()
        self._devices = {one.key: one for one in _read(self.path)}
        self._code, self._until = "", 0.0
        self._guesses = Guesses(clock)
        self._log = daybook(data, "way-in")
        # One code for every phone, as it was before, lets nobody in any more.
        (self.path.parent / "pairing").unlink(missing_ok=True)

    def code(self) -> tuple[str, float]:
        """The pairing code, and for how long it still stands [s]; a new one when it has lapsed."""
        with self._lock:
            now = self._clock()
            if now >= self._until:
                self._code, self._until = secrets.token_urlsafe(24), now + CODE_S
            return self._code, self._until - now

    def join(self, code: str, address: str) -> str:
        """Let a device in that has the code.

        Returns:
            Its token, which is kept nowhere else.

        Raises:
            TooManyGuessesError: wrong codes came too fast.
            WrongCodeError: it is not the shop's, or it has lapsed.
        """
        with self._lock:
            now = self._clock()
            if self._guesses.too_many(address):
                self._log.warning("too many wrong codes, %s was not looked at", address)
                raise TooManyGuessesError(
                    "Too many wrong codes. Wait a minute, then read it again."
                )
            stands = bool(self._code) and now < self._until
            if not (stands and hmac.compare_digest(code.encode(), self._code.encode())):
                self._guesses.note(address)
                self._log.warning("wrong code from %s", address)
                raise WrongCodeError("This code is not this shop's, or it has lapsed.")
            if len(self._devices) >= MOST_DEVICES:
                raise WrongCodeError("The shop has no room for another device: shut one out first.")
            token, key, at = secrets.token_urlsafe(32), secrets.token_hex(4), self._stamp()
            device = Device(key, f"Device {len(self._devices) + 1}", digest_of(token), at, at)
            self._keep({**self._devices, key: device})
            self._log.info("let in %s from %s", key, address)
            return token

    def known(self, token: str) -> Device | None:
        """The device of a token; none for one that was never given, or was shut out."""
        digest = digest_of(token)
        with self._lock:
            found = next(
                (one for one in self._devices.values() if hmac.compare_digest(one.digest, digest)),
                None,
            )
            if found is None or not token:
                return None
            before = datetime.fromisoformat(found.seen).timestamp()
            if self._clock() - before >= SEEN_S:
                found = replace(found, seen=self._stamp())
                try:
                    self._keep({**self._devices, found.key: found})
                except OSError:  # a full disk keeps nobody out who may come in
                    self._devices = {**self._devices, found.key: found}
            return found

    def all(self) -> list[Device]:
        """Every device let in, as they came."""
        with self._lock:
            return sorted(self._devices.values(), key=lambda one: one.since)

    def name(self, key: str, name: str) -> None:
        """Call a device by a name.

        Raises:
            NotFoundError: there is none of this key.
        """
        with self._lock:
            self._keep({**self._devices, key: replace(self._of(key), name=name)})

    def shut_out(self, key: str) -> None:
        """Let a device in no more.

        Raises:
            NotFoundError: there is none of this key.
        """
        with self._lock:
            self._of(key)
            self._keep({one: held for one, held in self._devices.items() if one != key})
            self._log.info("shut out %s", key)

    def _of(self, key: str) -> Device:
        if key not in self._devices:
            raise NotFoundError("There is no such device.")
        return self._devices[key]

    def _stamp(self) -> str:
        return datetime.fromtimestamp(self._clock(), UTC).isoformat(timespec="seconds")

    def _keep(self, devices: dict[str, Device]) -> None:
        """On the disk first, whole or not at all; then in use."""
        held = {"version": 1, "devices": [asdict(one) for one in devices.values()]}
        write_whole(self.path, json.dumps(held).encode())
        self._devices = devices


def _read(path: Path) -> list[Device]:
    if not path.exists():
        return []
    try:
        held = json.loads(path.read_bytes())
        found = [Device(**one) for one in held["devices"]]
        for one in found:
            datetime.fromisoformat(one.seen)
            if len(one.digest) != 64 or not all(isinstance(x, str) for x in asdict(one).values()):
                raise ValueError("a digest")
    except (ValueError, TypeError, KeyError, RecursionError) as error:
        raise PairingError(
            f"The list of paired devices in {path} is empty or damaged, so that nobody can be let "
            "in by it. Delete the file and start again, then pair every phone once more."
        ) from error
    return found
