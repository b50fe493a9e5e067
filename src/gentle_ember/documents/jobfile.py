"""The job file: one zip with `job.json` (published schema) and attachments by hash."""

from __future__ import annotations

import hashlib
import io
import json
import lzma
import math
import re
import zipfile
import zlib
from collections.abc import Callable
from datetime import datetime
from typing import Annotated, Any, Literal

from pydantic import (
    AfterValidator,
    BaseModel,
    ConfigDict,
    Field,
    StringConstraints,
    ValidationError,
    model_validator,
)

from gentle_ember.core.job.change import stacked
from gentle_ember.core.job.job import Job

FORMAT, VERSION = "gentle-ember-job", 3
LARGEST_ENTRY = 64 * 1024 * 1024
LARGEST_TOTAL = 512 * 1024 * 1024
_EPOCH = (1980, 1, 1, 0, 0, 0)


UNREADABLE = (
    zipfile.BadZipFile, zlib.error, lzma.LZMAError, EOFError, OSError, ValueError,
    NotImplementedError, RuntimeError,
)  # fmt: skip
"""What a zip that is none, or is damaged anywhere, is answered with."""


class JobFileError(ValueError):
    """A file that is not a job file this version can read; the message says what is wrong."""


DEEPEST = 60
"""How deep a logged value may be nested: far deeper than anything a job holds."""


def _finite(value: Any, depth: int = 0) -> Any:
    """A value of the log that a job could hold: finite, and not nested without end."""
    if depth > DEEPEST:
        raise ValueError("is nested deeper than anything a job holds")
    if isinstance(value, float) and not math.isfinite(value):
        raise ValueError("is no finite number")
    if isinstance(value, int) and abs(value) > MOST_REVISION:
        raise ValueError("is out of range")
    if isinstance(value, str):
        value.encode()
    within = value.values() if isinstance(value, dict) else value
    if isinstance(value, (dict, list)):
        for one in within:
            _finite(one, depth + 1)
    return value


def _moment(text: str) -> str:
    """A moment as the log writes it."""
    datetime.fromisoformat(text)
    return text


MOST_REVISION = 2**53
Revision = Annotated[int, Field(ge=1, le=MOST_REVISION)]


class LoggedPath(BaseModel):
    """One place a logged write touched."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)

    path: Annotated[str, StringConstraints(min_length=1, max_length=400)]
    value: Annotated[Any, AfterValidator(_finite)] = None
    remove: bool = False


class LogEntry(BaseModel):
    """One write of the job's history."""

    model_config = ConfigDict(extra="forbid")

    revision: Revision
    at: Annotated[str, AfterValidator(_moment)]
    who: Annotated[str, StringConstraints(max_length=120)]
    kind: Literal["create", "edit", "undo", "redo"]
    target: Revision | None = None
    key: Annotated[str, StringConstraints(min_length=1, max_length=120)]
    changes: list[LoggedPath]
    inverse: list[LoggedPath]


class JobFile(BaseModel):
    """The content of `job.json`."""

    model_config = ConfigDict(extra="forbid", title="Gentle Ember job")

    format: Literal["gentle-ember-job"] = "gentle-ember-job"
    version: Literal[3] = 3
    id: Annotated[str, StringConstraints(pattern=r"^[0-9a-f-]{36}$")]
    revision: Revision
    job: Job
    log: list[LogEntry]

    @model_validator(mode="after")
    def _whole_log(self) -> JobFile:
        """Its writes follow one another, undo and redo have something to go by, and end here."""
        last = 0
        for entry in self.log:
            if entry.revision <= last:
                raise ValueError(f"revision {entry.revision} of the log stands after {last}")
            last = entry.revision
        stacked((one.revision, one.kind, one.target, one.key) for one in self.log)
        if last > self.revision:
            raise ValueError(f"the log goes on to {last}, past revision {self.revision}")
        if len({entry.key for entry in self.log}) != len(self.log):
            raise ValueError("two writes of the log have one key")
        return self


def schema() -> dict[str, Any]:
    """The published JSON Schema of `job.json`."""
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        **JobFile.model_json_schema(),
    }


def write(content: JobFile, attachment: Callable[[str], bytes]) -> bytes:
    """The zip of a job; the same job always gives the same bytes.

    Args:
        content: the job with its log.
        attachment: gives the bytes of an attachment's SHA-256.
    """
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w", zipfile.ZIP_DEFLATED) as archive:
        text = json.dumps(content.model_dump(mode="json"), indent=1, ensure_ascii=False)
        archive.writestr(zipfile.ZipInfo("job.json", _EPOCH), text, zipfile.ZIP_DEFLATED)
        for digest in sorted({entry.sha256 for entry in content.job.attachments.values()}):
            info = zipfile.ZipInfo(f"attachments/{digest}", _EPOCH)
            archive.writestr(info, attachment(digest))
    return buffer.getvalue()


def read(data: bytes) -> tuple[JobFile, dict[str, bytes]]:
    """Read and check a job file, whole, before anything is changed.

    Returns:
        The content, and the attachments by SHA-256.

    Raises:
        JobFileError: not a zip, damaged, foreign, from a newer version, or incomplete.
    """
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            return _read(archive)
    except JobFileError:
        raise
    except UNREADABLE as error:
        raise JobFileError(
            "This is not a job file, or it is damaged: the zip can't be read."
        ) from (error)


def _read(archive: zipfile.ZipFile) -> tuple[JobFile, dict[str, bytes]]:
    infos = archive.infolist()
    if sum(info.file_size for info in infos) > LARGEST_TOTAL or any(
        info.file_size > LARGEST_ENTRY for info in infos
    ):
        raise JobFileError("The file unpacks to more than a job may hold.")
    names = [info.filename for info in infos]
    if len(set(names)) != len(names):
        raise JobFileError("The zip holds one name twice.")
    if "job.json" not in names:
        raise JobFileError("This zip holds no job.json: it is not a Gentle Ember job file.")
    if archive.testzip() is not None:
        raise JobFileError("The zip is damaged: a checksum inside does not match.")
    content = _content(archive.read("job.json"))
    wanted = {entry.sha256 for entry in content.job.attachments.values()}
    kept: dict[str, bytes] = {}
    for digest in wanted:
        name = f"attachments/{digest}"
        if name not in names:
            raise JobFileError(f"Attachment {digest[:12]}… is missing from the file.")
        kept[digest] = archive.read(name)
        if hashlib.sha256(kept[digest]).hexdigest() != digest:
            raise JobFileError(f"Attachment {digest[:12]}… does not match its hash.")
    return content, kept


RESPELLED = (
    ("vapour_hose", "vapor_hose"),
    ('"aluminium"', '"aluminum"'),
    ('"sulphide"', '"sulfide"'),
    (".sulphide", ".sulfide"),
    ('"grey"', '"gray"'),
)
"""Keys and values as version 1 spelled them within its JSON, never what a person typed."""


CHECKED = re.compile(r"^(LF-P-10[1-6]|PV-F-10[67])$")
"""Numbers of shipped parts that have a check, from before a part said so."""


def from_version_2(held: Any) -> Any:
    """Anything a job of version 2 holds, as version 3 has it.

    That a part stands upright and an opening is capped was taken for granted, and is now known
    only when somebody looked; a decay is judged by its leak, not by a drop that was allowed.
    """
    if isinstance(held, list):
        return [from_version_2(one) for one in held]
    if not isinstance(held, dict):
        return held
    found = {name: from_version_2(value) for name, value in held.items()}
    if {"capped", "upright", "role"} <= found.keys():
        found |= {name: None for name in ("capped", "upright") if found[name] is True}
    if {"allowed", "barometer"} <= found.keys():
        del found["allowed"]
    path = found.get("path")
    if isinstance(path, str) and path.startswith("proof.zones.") and path.endswith(".allowed"):
        found |= {"path": path.removesuffix("allowed") + "limit", "value": None}
    if isinstance(found.get("number"), str) and "kind" in found:
        if CHECKED.fullmatch(found["number"]):
            found["check"] = True
        if found["kind"] == "lock_off":
            found.pop("stalls", None)
    return found


def _content(text: bytes) -> JobFile:
    try:
        raw = json.loads(text)
        if isinstance(raw, dict) and raw.get("version") == 1:
            for old, new in RESPELLED:
                text = text.replace(old.encode(), new.encode())
            raw = {**json.loads(text), "version": 2}
        if isinstance(raw, dict) and raw.get("version") == 2:
            raw = {**from_version_2(raw), "version": VERSION}
    except RecursionError:
        raise JobFileError("job.json can't be read: it is nested without end.") from None
    except ValueError as error:
        raise JobFileError(f"job.json can't be read: {error}.") from error
    if not isinstance(raw, dict) or raw.get("format") != FORMAT:
        raise JobFileError("job.json is of another format: it is not a Gentle Ember job.")
    version = raw.get("version")
    if isinstance(version, int) and version > VERSION:
        raise JobFileError(
            f"Made by a newer Gentle Ember (file version {version}); "
            f"this one reads up to version {VERSION}. Update, then import again."
        )
    try:
        return JobFile.model_validate(raw)
    except ValidationError as error:
        first = error.errors(include_url=False)[0]
        place = ".".join(str(part) for part in first["loc"])
        raise JobFileError(f"job.json is not whole: {place}: {first['msg']}.") from error
