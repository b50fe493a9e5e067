"""Files in and out: job zips, the output table, attachments, the published schema."""

from __future__ import annotations

import hashlib
import re
import uuid
from pathlib import PurePath

from flask import Response, jsonify, request

from gentle_ember.core.job.change import Change
from gentle_ember.core.job.facts import one_line
from gentle_ember.core.stages.fuel_path.parts_list import parts_list
from gentle_ember.documents import jobfile, photo
from gentle_ember.documents.bill_csv import bill_csv
from gentle_ember.documents.output_csv import output_csv
from gentle_ember.store.attachments import LARGEST, LARGEST_PHOTO
from gentle_ember.store.errors import FieldError, InvalidJobError, NotFoundError
from gentle_ember.store.transfer import export_job, import_job
from gentle_ember.web import access
from gentle_ember.web.blueprint import blueprint, sent
from gentle_ember.web.services import services
from gentle_ember.web.views.base import CsvQuery, JobPath
from gentle_ember.web.views.job import AttachmentPath, SnapshotOut, snapshot_json

api = blueprint("files", "files", "/api", 404, 422)


_PICTURES = re.compile(r"\.(jpe?g|png|webp|gif|bmp|tiff?|heic)$", re.I)


def download(content: bytes | str, name: str, mimetype: str) -> Response:
    """A file to be saved under a name."""
    response = Response(content, mimetype=mimetype)
    response.headers.set("Content-Disposition", "attachment", filename=name)
    return response


def slug(title: str) -> str:
    """A title as the beginning of a file's name."""
    return re.sub(r"[^a-z0-9]+", "-", title.lower()).strip("-")[:60] or "job"


@api.get("/jobs/<job_id>/export")
def export(path: JobPath) -> Response:
    """The job as one open zip."""
    content = export_job(services().jobs, services().attachments, path.job_id)
    title = services().jobs.get(path.job_id).job.title
    return download(content, f"{slug(title)}.zip", "application/zip")


@api.get("/jobs/<job_id>/parts.csv")
def parts_table(path: JobPath) -> Response:
    """The bill of materials as CSV."""
    stored = services().jobs.get(path.job_id)
    text = bill_csv(services().plan(stored).of(parts_list), services().catalog.suppliers)
    return download(text, f"{slug(stored.job.title)}-parts.csv", "text/csv")


@api.get("/jobs/<job_id>/parts.pdf")
def parts_sheet(path: JobPath, query: CsvQuery) -> Response:
    """The bill of materials as PDF, Letter or A4 by the system of units."""
    stored = services().jobs.get(path.job_id)
    bill = services().plan(stored).of(parts_list)
    from gentle_ember.documents.bill_pdf import bill_pdf

    content = bill_pdf(
        stored.job.title,
        stored.job.owner,
        bill,
        services().catalog.suppliers,
        query.system,
        services().front,
    )
    return download(content, f"{slug(stored.job.title)}-parts.pdf", "application/pdf")


@api.get("/jobs/<job_id>/output.csv")
def table(path: JobPath, query: CsvQuery) -> Response:
    """The output table."""
    stored = services().jobs.get(path.job_id)
    text = output_csv(services().plan(stored), query.system)
    return download(text, f"{slug(stored.job.title)}-output.csv", "text/csv")


@api.post("/import", responses={201: SnapshotOut})
def import_() -> Response:
    """Take in a job zip sent as the request's body; refused whole or taken whole.

    Its signatures and what was done with the machine pass the same gate as any write; with
    `take_back=yes` the job is taken in without those that do not.
    """
    data = request.get_data(cache=False)
    who = access.hand(request.args.get("who", "")[:120])
    take_back = request.args.get("take_back") == "yes"
    stored = import_job(
        services().jobs, services().attachments, data, who, take_back=take_back,
        acting=access.acting(),
    )  # fmt: skip
    return sent(snapshot_json(stored, services().plan(stored), set()), 201)


@api.get("/schema/job.json")
def job_schema() -> Response:
    """The JSON Schema of `job.json`."""
    return jsonify(jobfile.schema())


@api.post("/jobs/<job_id>/attachments", responses={201: SnapshotOut})
def attach(path: JobPath) -> Response:
    """Keep a file with the job: the body's bytes, its name in `name`.

    A photo says in `subject` what it shows; pictures are checked by content and made small.
    """
    content = request.get_data(cache=False)
    given = one_line(request.args.get("name", "file")).replace("\\", "/")
    name = PurePath(given).name[:200] or "file"
    subject = request.args.get("subject", "")[:120]
    media_type = (request.mimetype or "application/octet-stream")[:100]
    field = subject or "attachments"
    photographed = media_type.startswith("image/") and "svg" not in media_type
    picture = bool(subject) or photographed or _PICTURES.search(name)
    largest = LARGEST_PHOTO if picture else LARGEST
    if not content or len(content) > largest:
        limit = f"{largest // 1024 // 1024} MB"
        fault = f"“{name}” is empty." if not content else f"“{name}” is over {limit}."
        raise InvalidJobError([FieldError(field, fault)])
    if picture:
        try:
            content, media_type = photo.prepare(content, name), "image/jpeg"
        except photo.PhotoError as error:
            raise InvalidJobError([FieldError(field, str(error))]) from None
    digest = services().attachments.put(content)
    entry = {
        "sha256": digest,
        "name": name,
        "media_type": media_type,
        "size": len(content),
        "subject": subject,
    }
    before = services().jobs.get(path.job_id)
    key = f"f{digest[:12]}"
    held = before.job.attachments.get(key)
    if held is not None and held.subject != subject:
        # The same picture at a second place is an entry of its own.
        key = f"f{hashlib.sha256(f'{digest} {subject}'.encode()).hexdigest()[:12]}"
    stored = services().jobs.change(
        path.job_id,
        [Change(f"attachments.{key}", entry)],
        base=before.revision,
        key=request.headers.get("Idempotency-Key") or str(uuid.uuid4()),
        who=access.hand(request.args.get("who", "")[:120]),
        acting=access.acting(),
    )
    views = set(filter(None, request.args.get("views", "").split(",")))
    return sent(snapshot_json(stored, services().plan(stored), views), 201)


@api.get("/jobs/<job_id>/attachments/<key>")
def attachment(path: AttachmentPath) -> Response:
    """An attachment, always as a download."""
    entry = services().jobs.get(path.job_id).job.attachments.get(path.key)
    if entry is None:
        raise NotFoundError("The job has no such file.")
    content = services().attachments.get(entry.sha256)
    return download(content, entry.name, "application/octet-stream")


@api.get("/jobs/<job_id>/photos/<key>")
def show_photo(path: AttachmentPath) -> Response:
    """A photo to look at; what is kept as one was made by us, so it is shown as a picture."""
    entry = services().jobs.get(path.job_id).job.attachments.get(path.key)
    if entry is None or entry.media_type != "image/jpeg":
        raise NotFoundError("The job has no such photo.")
    response = Response(services().attachments.get(entry.sha256), mimetype="image/jpeg")
    response.headers["Cache-Control"] = "private, max-age=31536000, immutable"
    return response
