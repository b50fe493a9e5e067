"""What the fitting prints: drill templates and the panel label, at true size."""

from __future__ import annotations

from flask import Response

from gentle_ember.core.job.job import machine_name
from gentle_ember.core.stages.fit.marks.drawing import (
    SHEETS,
    Drawing,
    TooLargeError,
    plate,
    template,
)
from gentle_ember.core.stages.fit.marks.label import label
from gentle_ember.core.stages.fit.marks.mount import mount_plans
from gentle_ember.core.stages.method.networks import fuel_states, safe_orders
from gentle_ember.store.errors import FieldError, InvalidJobError, NotFoundError
from gentle_ember.web.blueprint import blueprint
from gentle_ember.web.files_api import download, slug
from gentle_ember.web.services import services
from gentle_ember.web.views.fit import DrawingPath, DrawingQuery, LabelPath, lengths

api = blueprint("fit", "fit", "/api/jobs/<job_id>", 404, 422)
_TYPES = {"pdf": "application/pdf", "svg": "image/svg+xml", "dxf": "image/vnd.dxf"}


def _written(one: Drawing, form: str, page: tuple[float, float] | None = None) -> bytes | str:
    from gentle_ember.documents.drawing import drawing_dxf, drawing_pdf, drawing_svg

    if form == "pdf":
        return drawing_pdf(one, page=page)
    return drawing_svg(one) if form == "svg" else drawing_dxf(one)


@api.get("/marks/<key>/template.<form>")
def drill_template(path: DrawingPath, query: DrawingQuery) -> Response:
    """The drill template of a mount, on a sheet with rulers, or the whole face."""
    stored = services().jobs.get(path.job_id)
    job, planned = stored.job, services().plan(stored)
    found = next((one for one in planned.of(mount_plans) if one.key == path.key), None)
    if found is None:
        raise NotFoundError("The job has no such mount.")
    if not found.ready:
        text = "Not to be drilled yet: its place is not worked out, or something is in the way."
        raise InvalidJobError([FieldError(f"marks.{path.key}", text)])
    title = f"{job.title}: {found.part.name if found.part else path.key}"
    try:
        if query.whole:
            one = plate(found, title)
        else:
            one = template(found, title, query.sheet, lengths(found, query.system))
    except TooLargeError as error:
        raise InvalidJobError([FieldError(f"marks.{path.key}", str(error))]) from None
    name = f"{slug(job.title)}-{path.key}.{path.form}"
    return download(_written(one, path.form), name, _TYPES[path.form])


@api.get("/label.<form>")
def panel_label(path: LabelPath, query: DrawingQuery) -> Response:
    """The panel label at true size: as SVG alone, as PDF on a sheet."""
    stored = services().jobs.get(path.job_id)
    job, planned = stored.job, services().plan(stored)
    if not job.choice.methods:
        raise InvalidJobError([FieldError("choice.methods", "Choose the method first.")])
    name = machine_name(job) or job.title
    one = label(name, planned.of(fuel_states), planned.of(safe_orders))
    content = _written(one, path.form, SHEETS[query.sheet] if path.form == "pdf" else None)
    return download(content, f"{slug(job.title)}-label.{path.form}", _TYPES[path.form])
