"""Parts with their operations in order."""

from __future__ import annotations

from datetime import UTC, datetime
from uuid import UUID

from velvet_hand.core.after.account import Account
from velvet_hand.core.errors import NotFound
from velvet_hand.core.job.order import JobOrder

from .tables import JobRow, Setup


def save(job_id: UUID, job: JobOrder) -> None:
    """Keep a job as it is now."""
    kept = {"name": job.name, "body": job.model_dump(mode="json"), "changed_at": datetime.now(UTC)}
    JobRow.insert(id=job_id, **kept).on_conflict(conflict_target=[JobRow.id], update=kept).execute()


def get(job_id: UUID) -> JobOrder:
    """A job.

    Raises
    ------
    NotFound
        ``unknown_thing``.
    """
    row = JobRow.get_or_none(JobRow.id == job_id)
    if row is None:
        raise NotFound("unknown_thing", "There is no such job here.", "Plan it anew.")
    return JobOrder.model_validate(row.body, strict=False)


def latest(count: int = 40) -> list[tuple[UUID, str, datetime]]:
    """The jobs that were worked on last: id, name, when."""
    rows = JobRow.select(JobRow.id, JobRow.name, JobRow.changed_at).order_by(JobRow.changed_at.desc()).limit(count)
    return [(row.id, row.name, row.changed_at) for row in rows]


def begin(job_id: UUID, operation: str, setup_id: UUID) -> None:
    """An operation was started: this is its set-up now.

    Raises
    ------
    NotFound
        ``unknown_thing``: no such job, or operation of it.
    """
    with JobRow._meta.database.atomic():
        JobRow.select(JobRow.id).where(JobRow.id == job_id).for_update().first()
        job = get(job_id)
        if operation not in {one.id for one in job.operations}:
            raise NotFound("unknown_thing", "There is no such operation in this job.", "Look at the plan again.")
        begun = (
            one.model_copy(update={"setup": str(setup_id)}) if one.id == operation else one for one in job.operations
        )
        save(job_id, job.model_copy(update={"operations": tuple(begun)}))


def accounts(job: JobOrder) -> dict[str, Account]:
    """The accounts of a job's set-ups, by set-up."""
    ids = [UUID(one.setup) for one in job.operations if one.setup]
    rows = Setup.select(Setup.id, Setup.account).where(Setup.id.in_(ids)) if ids else []
    return {str(row.id): Account.model_validate(row.account, strict=False) for row in rows if row.account is not None}
