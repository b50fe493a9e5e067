"""The command line: serve, demo, service, export, import, backup, restore, invite, check."""

from __future__ import annotations

import argparse
import os
import sys
import time
from pathlib import Path
from typing import TYPE_CHECKING

from platformdirs import user_data_path

from gentle_ember import __version__
from gentle_ember.serving import END_S, check_free, claimed, is_loopback

if TYPE_CHECKING:
    from gentle_ember.store.people import People

PORT, DEMO_PORT = 8765, 8766


def default_data() -> Path:
    """Where the shop's data lives unless `--data` says otherwise."""
    return user_data_path("gentle-ember", appauthor=False)


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="gentle-ember", description=__doc__)
    parser.add_argument("--version", action="version", version=__version__)
    commands = parser.add_subparsers(dest="command", required=True)

    def command(name: str, text: str, data: Path | None = None) -> argparse.ArgumentParser:
        sub = commands.add_parser(name, help=text, description=text)
        sub.add_argument(
            "--data", type=Path, default=data or default_data(), help="data folder (%(default)s)"
        )
        return sub

    for sub, port in (
        (command("serve", "Serve the shop on this machine."), PORT),
        (
            command(
                "demo",
                "Seed the demo scenario, then serve it.",
                default_data().with_name("gentle-ember-demo"),
            ),
            DEMO_PORT,
        ),
    ):
        sub.add_argument("--host", default="127.0.0.1", help="address to listen on (%(default)s)")
        sub.add_argument("--port", type=int, default=port, help="port (%(default)s)")
        sub.add_argument(
            "--lan", action="store_true", help="serve phones on this network too, over TLS"
        )
    commands.choices["serve"].add_argument(
        "--no-backups", action="store_true", help="make no backup each day"
    )
    commands.choices["demo"].add_argument(
        "--fresh", action="store_true", help="throw the demo's own changes away first"
    )
    commands.choices["demo"].add_argument(
        "--seed-only", action="store_true", help="seed and stop, without serving"
    )
    unit = command("service", "Print a systemd unit that serves the shop.")
    unit.add_argument("--port", type=int, default=PORT, help="port (%(default)s)")
    unit.add_argument("--lan", action="store_true", help="serve phones on its network too")
    export = command("export", "Write a job to an open zip.")
    export.add_argument("job", help="the job's id")
    export.add_argument("file", type=Path)
    taking = command("import", "Take in a job file.")
    taking.add_argument("file", type=Path)
    command("backup", "Copy the whole shop to one zip, while it runs.").add_argument(
        "file", type=Path
    )
    command("restore", "Unpack a backup into an empty data folder.").add_argument("file", type=Path)
    invite = command("invite", "Let somebody choose a passphrase: a lead who forgot theirs.")
    invite.add_argument("name", help="as the shop knows them")
    invite.add_argument(
        "--role", choices=("lead", "technician", "learner", "owner"), default="lead",
        help="what they are to the shop (%(default)s)",
    )  # fmt: skip
    check = command("check", "Check database, board index and attachments.")
    check.add_argument(
        "--repair",
        action="store_true",
        help="put right what can be worked out: the board, its search, files of no job",
    )
    return parser


def main(argv: list[str] | None = None) -> int:
    """Run one command; 0 when all went well."""
    arguments = _parser().parse_args(argv)
    # Customers' names, keys and backups are for whoever runs the shop, not for every account.
    os.umask(0o077)
    try:
        return _COMMANDS[arguments.command](arguments)
    except (ValueError, LookupError, OSError) as error:
        print(f"gentle-ember: {error}", file=sys.stderr)
        return 1
    except Exception as error:
        from sqlalchemy.exc import DatabaseError

        if not isinstance(error, DatabaseError):
            raise
        told = f"The database in {arguments.data} can't be read: {error.orig}."
        print(f"gentle-ember: {told} Restore the last backup.", file=sys.stderr)
        return 1


def _url(arguments: argparse.Namespace) -> str:
    shown = "127.0.0.1" if arguments.host == "0.0.0.0" else arguments.host  # noqa: S104
    return f"{'https' if arguments.lan else 'http'}://{shown}:{arguments.port}"


def _refuse_open(arguments: argparse.Namespace) -> None:
    """Nobody is served beyond this machine but over TLS, and paired."""
    if not arguments.lan and not is_loopback(arguments.host):
        raise ValueError(
            f"Serving at {arguments.host} would let everybody on that network in, unpaired and "
            "unencrypted. Give --lan to serve phones over TLS, paired; or leave --host out."
        )


def _serve(arguments: argparse.Namespace) -> int:
    _refuse_open(arguments)
    check_free(arguments.host, arguments.port)
    with claimed(arguments.data, _url(arguments)):
        return _run(arguments)


def _run(arguments: argparse.Namespace) -> int:
    """Serve a folder that is claimed, until told to stop."""
    from granian import Granian
    from granian.constants import Interfaces

    from gentle_ember.store.database import newest, revision
    from gentle_ember.web import address as told

    if arguments.data.is_dir() and revision(arguments.data) != newest():
        from gentle_ember.store.daily import before_upgrade
        from gentle_ember.store.upgrade import bring_up

        if saved := before_upgrade(arguments.data):
            print(f"Kept the shop as it was before this version: {saved}", flush=True)
        bring_up(arguments.data)
    # What the server's process reads is said here alone, whatever the environment brought.
    for name in (told.BACKUPS_VARIABLE, told.LAN_VARIABLE):
        os.environ.pop(name, None)
    if arguments.command == "serve" and not arguments.no_backups:
        os.environ[told.BACKUPS_VARIABLE] = "1"
    os.environ[told.DATA_VARIABLE] = str(arguments.data)
    os.environ[told.HOSTS_VARIABLE] = arguments.host
    certificate: Path | None = None
    key: Path | None = None
    address = arguments.host
    if arguments.lan:
        from gentle_ember.store.devices import Door
        from gentle_ember.web.certificate import addresses, certificates, names

        made, found = certificates(arguments.data / "tls", names()), addresses()
        certificate, key = made.certificate, made.key
        os.environ[told.HOSTS_VARIABLE] = ",".join((arguments.host, *found))
        os.environ[told.LAN_VARIABLE] = str(arguments.port)
        Door(arguments.data)  # refused here, by name, before anything is served
        if is_loopback(arguments.host):
            address = "0.0.0.0"  # noqa: S104
    print(f"Gentle Ember: {_url(arguments)}  (Ctrl+C stops it)", flush=True)
    if arguments.lan:
        print(f"Pair a phone: {_url(arguments)}/pair", flush=True)
    server = Granian(
        "gentle_ember.web.app:from_environment",
        address=address,
        port=arguments.port,
        interface=Interfaces.WSGI,
        workers=1,
        blocking_threads=told.STREAMS + 8,
        factory=True,
        log_enabled=False,
        ssl_cert=certificate,
        ssl_key=key,
        workers_kill_timeout=END_S,
    )
    # A terminal that hangs up ends it, as Ctrl+C does; there is nothing to load anew.
    setattr(server, "signal_handler_reload", server.signal_handler_interrupt)  # noqa: B010
    server.serve()
    return 0


def _service(arguments: argparse.Namespace) -> int:
    from gentle_ember.service import unit

    arguments.data.expanduser().mkdir(parents=True, exist_ok=True)
    print(unit(arguments.data, arguments.port, lan=arguments.lan), end="")
    return 0


def _demo(arguments: argparse.Namespace) -> int:
    from gentle_ember.demo import seed
    from gentle_ember.store.database import DATABASE_NAME

    if not arguments.seed_only:
        _refuse_open(arguments)
        check_free(arguments.host, arguments.port)
    with claimed(arguments.data, "" if arguments.seed_only else _url(arguments)):
        if arguments.fresh:
            for name in (DATABASE_NAME, f"{DATABASE_NAME}-wal", f"{DATABASE_NAME}-shm"):
                (arguments.data / name).unlink(missing_ok=True)
        count = seed(arguments.data)
        print(f"Demo: {count} jobs in {arguments.data}", flush=True)
        return 0 if arguments.seed_only else _run(arguments)


def _export(arguments: argparse.Namespace) -> int:
    from gentle_ember.store.transfer import export_job
    from gentle_ember.web.services import open_services

    opened = open_services(arguments.data)
    content = export_job(opened.jobs, opened.attachments, arguments.job)
    arguments.file.write_bytes(content)
    print(f"Wrote {arguments.file} ({len(content):,} bytes)")
    return 0


def _import(arguments: argparse.Namespace) -> int:
    from gentle_ember.store.transfer import import_job
    from gentle_ember.web.services import open_services

    opened = open_services(arguments.data)
    stored = import_job(opened.jobs, opened.attachments, arguments.file.read_bytes(), "")
    print(f"Took in “{stored.job.title}” as {stored.id}")
    return 0


def _backup(arguments: argparse.Namespace) -> int:
    from gentle_ember.store.backup import backup
    from gentle_ember.store.database import database_path

    if not database_path(arguments.data).exists():
        raise ValueError(f"{arguments.data} holds no shop")
    print(f"Backed up {backup(arguments.data, arguments.file)} jobs to {arguments.file}")
    return 0


def _restore(arguments: argparse.Namespace) -> int:
    from gentle_ember.store.backup import restore
    from gentle_ember.store.upgrade import bring_up

    jobs = restore(arguments.file, arguments.data)
    bring_up(arguments.data)
    _people(arguments).signed_out_everywhere()
    print(f"Restored {jobs} jobs into {arguments.data}")
    return 0


def _people(arguments: argparse.Namespace) -> People:
    from gentle_ember.store.database import open_engine
    from gentle_ember.store.people import People

    return People(open_engine(arguments.data), arguments.data)


def _invite(arguments: argparse.Namespace) -> int:
    from gentle_ember.core.people import ShopRole
    from gentle_ember.store.database import database_path
    from gentle_ember.store.upgrade import bring_up

    if not database_path(arguments.data).exists():
        raise ValueError(f"{arguments.data} holds no shop")
    bring_up(arguments.data)
    role = ShopRole(arguments.role)
    made = _people(arguments).invite(arguments.name, role, "the command line", rescue=True)
    print(f"Invitation for {arguments.name}, good for a day: {made}")
    return 0


def _check(arguments: argparse.Namespace) -> int:
    from gentle_ember.store.check import check

    started = time.monotonic()
    findings = check(arguments.data, repair=arguments.repair)
    for line in findings:
        print(line)
    verdict = "all well" if not findings else f"{len(findings)} found"
    if findings and arguments.repair:
        # What can't be worked out is still as it was: told by looking once more.
        findings = check(arguments.data, repair=False)
        verdict += f", {len(findings)} left" if findings else ", all put right"
    print(f"Checked {arguments.data} in {time.monotonic() - started:.1f} s: {verdict}")
    return 1 if findings else 0


_COMMANDS = {
    "serve": _serve,
    "demo": _demo,
    "service": _service,
    "export": _export,
    "import": _import,
    "backup": _backup,
    "restore": _restore,
    "invite": _invite,
    "check": _check,
}

if __name__ == "__main__":
    sys.exit(main())
