"""The shop as a service of the machine: a unit for systemd, written and never installed."""

from __future__ import annotations

import sys
from pathlib import Path

STOP_S = 15
"""How long it may take to finish what it is writing before it is ended [s]."""


def unit(data: Path, port: int, *, lan: bool, python: Path | None = None) -> str:
    """A unit that serves a data folder, as text; whoever keeps the machine puts it in its place.

    It may write into that folder and nowhere else, takes up no new rights, and is started again
    when it fails. A stop lets writes finish.

    Args:
        data: the folder.
        port: to serve at.
        lan: whether phones on the network are served, over TLS.
        python: what runs it; that which runs this.

    Raises:
        ValueError: a path holds what no unit can.
    """
    folder = data.expanduser().absolute()
    run = [str(python or Path(sys.executable)), "-m", "gentle_ember.cli", "serve", "--data",
           str(folder), "--port", str(port), *(["--lan"] if lan else [])]  # fmt: skip
    return "\n".join((
        "[Unit]",
        "Description=Gentle Ember",
        "After=network-online.target",
        "Wants=network-online.target",
        "",
        "[Service]",
        "Type=exec",
        f"ExecStart={' '.join(map(quoted, run))}",
        "Restart=on-failure",
        "RestartSec=3",
        "KillSignal=SIGINT",
        f"TimeoutStopSec={STOP_S}",
        "UMask=0077",
        "NoNewPrivileges=yes",
        "PrivateTmp=yes",
        "PrivateDevices=yes",
        "ProtectSystem=strict",
        "ProtectKernelTunables=yes",
        "ProtectControlGroups=yes",
        "RestrictSUIDSGID=yes",
        f"ReadWritePaths={quoted(str(folder), command=False)}",
        "",
        "[Install]",
        "WantedBy=multi-user.target",
        "",
    ))  # fmt: skip


def quoted(text: str, *, command: bool = True) -> str:
    """A word of a command, or a path of a setting, as systemd reads it.

    Raises:
        ValueError: it holds a character no unit can.

    >>> quoted("/srv/shop"), quoted('/srv/my "shop" 5%')
    ('/srv/shop', '"/srv/my \\\\"shop\\\\" 5%%"')
    """
    if not text.isprintable():
        raise ValueError(f"A unit can't hold the path {text!r}.")
    plain = text.replace("\\", "\\\\").replace('"', '\\"').replace("%", "%%")
    if command:
        plain = plain.replace("$", "$$")
    return plain if plain == text and " " not in text and "'" not in text else f'"{plain}"'
