"""Edits of what proofs show."""

from msgspec.structs import replace

from glasscap.core.document.model.backdrop import Backdrop
from glasscap.core.document.model.job import Job
from glasscap.core.document.model.proofs import VideoCorner


def add_background(job: Job, backdrop: Backdrop) -> Job:
    """Return the job with another background to judge on."""
    return replace(job, proofs=replace(job.proofs, backgrounds=(*job.proofs.backgrounds, backdrop)))


def set_background(job: Job, index: int, backdrop: Backdrop) -> Job:
    """Return the job with a background changed."""
    found = list(job.proofs.backgrounds)
    found[index] = backdrop
    return replace(job, proofs=replace(job.proofs, backgrounds=tuple(found)))


def remove_background(job: Job, index: int) -> Job:
    """Return the job without a background."""
    found = job.proofs.backgrounds
    return replace(job, proofs=replace(job.proofs, backgrounds=found[:index] + found[index + 1 :]))


def set_sizes(job: Job, sizes: tuple[int, ...]) -> Job:
    """Return the job with other small sizes, the largest first. Raises FinishError."""
    return replace(job, proofs=replace(job.proofs, sizes=tuple(sorted(set(sizes), reverse=True))))


def set_video(job: Job, video: VideoCorner) -> Job:
    """Return the job with another corner of the video."""
    return replace(job, proofs=replace(job.proofs, video=video))
