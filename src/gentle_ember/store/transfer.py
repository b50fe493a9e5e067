"""Jobs out of and into the store as job files."""

from __future__ import annotations

from gentle_ember.core.people import Acting, refuse_others_signatures
from gentle_ember.core.stages.hand_over.seals import faults
from gentle_ember.documents import jobfile
from gentle_ember.store.attachments import AttachmentStore
from gentle_ember.store.jobs import JobStore, Stored
from gentle_ember.store.validate import valid_job


def export_job(jobs: JobStore, attachments: AttachmentStore, job_id: str) -> bytes:
    """A job with its log and attachments as a zip."""
    stored = jobs.get(job_id)
    log = [
        jobfile.LogEntry(
            revision=row.revision,
            at=row.at.isoformat(),
            who=row.who,
            kind=row.kind,
            target=row.target,
            key=row.key,
            changes=[jobfile.LoggedPath(**entry) for entry in row.changes],
            inverse=[jobfile.LoggedPath(**entry) for entry in row.inverse],
        )
        for row in jobs.log(job_id)
    ]
    content = jobfile.JobFile(id=job_id, revision=stored.revision, job=stored.job, log=log)
    return jobfile.write(content, attachments.get)


def import_job(
    jobs: JobStore, attachments: AttachmentStore, data: bytes, who: str, *,
    take_back: bool = False, acting: Acting | None = None,
) -> Stored:  # fmt: skip
    """Take in a job file; with `take_back` without the signatures and acts that do not pass.

    Raises:
        JobFileError: the file is not whole, not ours, or from a newer version.
        InvalidJobError: the job in it contradicts itself, or does what is not allowed here.
        NotYoursError: others signed it, and whoever takes it in does not lead the shop.
    """
    content, files = jobfile.read(data)
    valid_job(content.job.model_dump(mode="json"))
    if broken := next(faults(content.job), ""):
        raise jobfile.JobFileError(f"Not taken in: {broken}.")
    if acting is not None:
        refuse_others_signatures(acting, content.job)
    if not take_back:
        jobs.refuse_unearned(content.id, content.job)
    for body in files.values():
        attachments.put(body)
    log = [entry.model_dump() for entry in content.log]
    return jobs.adopt(content.id, content.revision, content.job, log, who, take_back=take_back)
