"""Edits of the export list, and the names its files get."""

import re
from collections.abc import Callable, Iterable

from msgspec.structs import replace

from glasscap.core.document.edits.versions import find_subject, version_names
from glasscap.core.document.model.job import Job, walk
from glasscap.core.document.model.outputs import FileOptions, NamedSize, Output, OutputSize
from glasscap.core.document.model.query import items_of, locate
from glasscap.core.document.outputs.titles import UNSAFE, dashed_name
from glasscap.core.errors import ExportError, PlacementError

_WORD = re.compile(r"\{([^{}]*)\}")
_WORDS = ("name", "number", "scale", "@scale", "size", "width", "height", "format", "sheet", "version")
_OF_SIZE = {"size", "width", "height"}
LONGEST_NAME = 200


def add_output(job: Job, output: Output) -> Job:
    """Return the job with another row at the end, under an id of its own."""
    return add_outputs(job, [output])


def add_outputs(job: Job, outputs: Iterable[Output]) -> Job:
    """Return the job with more rows at the end, under ids of their own."""
    first = max((int(o.id[1:]) for o in job.outputs if o.id[1:].isdecimal()), default=0) + 1
    fresh = (replace(output, id=f"o{n}") for n, output in enumerate(outputs, first))
    return replace(job, outputs=(*job.outputs, *fresh))


def with_own_names(job: Job) -> Job:
    """Return the job with rows numbered that would be written over another: of equal names, the later ones."""
    taken: set[tuple[object, ...]] = set()
    rows = []
    for row in job.outputs:
        pattern, number = row.name, 2
        while (key := _name_key(job, replace(row, name=pattern))) in taken:
            pattern, number = f"{row.name}-{number}", number + 1
        taken.add(key)
        rows.append(row if pattern == row.name else replace(row, name=pattern))
    return replace(job, outputs=tuple(rows))


def _name_key(job: Job, row: Output) -> tuple[object, ...]:
    """Return what tells the file of a row from that of another: folder, name, format, and the size it names."""
    try:
        stem = file_stem(job, row, 0, (0, 0)).lower()
    except ExportError:
        # It is refused for itself.
        return (row.id,)
    words = set(_WORD.findall(row.name))
    size = row.size if words & _OF_SIZE else None
    return row.folder, stem, row.file.format, size, row.id if "number" in words else ""


def add_video_pack(
    job: Job, item_id: str, frame: tuple[int, int] = (1920, 1080), *, is_premultiplied: bool = False
) -> Job:
    """Return the job with three rows for a video: the picture in its corner, alone, and its photo behind."""
    # A video counts px alone: the density is the sheet's, whatever the scale.
    plain = FileOptions("png", ppi=locate(job, item_id)[0].resolution_ppi)
    file = replace(plain, format="tiff", is_premultiplied=True) if is_premultiplied else plain
    corner = job.proofs.video
    box = OutputSize("box", width=frame[0], height=frame[1])
    alone = OutputSize("height", height=max(1, round(corner.height * frame[1])))
    rows = (
        Output("", item_id, box, name="{name}-corner", file=file, stage="corner", corner=corner),
        Output("", item_id, alone, name="{name}-alone", file=file),
        Output("", item_id, box, name="{name}-behind", file=plain, stage="behind"),
    )
    for row in rows:
        job = add_output(job, row)
    return job


def add_versions(job: Job, output: Output) -> Job:
    """Return the job with a row like `output` for every version of what it shows that has none yet.

    Raises PlacementError where there are no versions.
    """
    subject = find_subject(job, output.item_id)
    names = version_names(subject)
    if not names:
        raise PlacementError(subject.name, "it has no versions", "add one on the bench first")
    there = {o.version for o in job.outputs if o.item_id == output.item_id and o.file == output.file}
    for name in names:
        if name not in there:
            pattern = output.name if "{version}" in output.name else f"{output.name}-{{version}}"
            job = add_output(job, replace(output, version=name, name=pattern))
    return job


def row_title(job: Job, output: Output) -> str:
    """Return what a row shows in words, its version named; "" when it is gone."""
    name = subject_name(job, output.item_id)
    return f"{name}, {output.version}" if name and output.version else name


def remove_outputs(job: Job, ids: Iterable[str]) -> Job:
    """Return the job without some rows."""
    gone = set(ids)
    return replace(job, outputs=tuple(o for o in job.outputs if o.id not in gone))


def change_outputs(job: Job, ids: Iterable[str], change: Callable[[Output], Output]) -> Job:
    """Return the job with the same change made to several rows."""
    meant = set(ids)
    return replace(job, outputs=tuple(change(o) if o.id in meant else o for o in job.outputs))


def move_output(job: Job, output_id: str, place: int) -> Job:
    """Return the job with a row at another place of the list."""
    rows = [o for o in job.outputs if o.id != output_id]
    moved = next((o for o in job.outputs if o.id == output_id), None)
    if moved is None:
        return job
    rows.insert(max(0, min(place, len(rows))), moved)
    return replace(job, outputs=tuple(rows))


def keep_size(job: Job, name: str, size: OutputSize) -> Job:
    """Return the job with a size kept under a name; one of that name is replaced. Raises ExportError."""
    name = " ".join(name.split())
    if not name:
        raise ExportError("Size", "a name is needed", "type one")
    return replace(job, sizes=(*(s for s in job.sizes if s.name != name), NamedSize(name, size)))


def live_outputs(job: Job) -> tuple[Output, ...]:
    """Return the rows whose cutout or sheet is still there."""
    there = {s.id for s in job.sheets} | {i.id for _, i in items_of(job)}
    return tuple(o for o in job.outputs if o.item_id in there)


def subject_name(job: Job, item_id: str) -> str:
    """Return the name of the sheet or cutout a row shows; empty when it is gone."""
    names = {s.id: s.name for s in job.sheets} | {i.id: i.name for _, i in items_of(job)}
    return names.get(item_id, "")


def file_stem(job: Job, output: Output, number: int, size: tuple[int, int]) -> str:
    """Return a row's file name without its ending.

    `{name}`, `{number}`, `{scale}`, `{@scale}` (``@2x``, nothing at 1x), `{size}`, `{width}`, `{height}`,
    `{format}`, `{sheet}` and `{version}` stand for what they say. Raises ExportError for another
    word, or a name of nothing.
    """
    scale = f"{output.size.scale:g}x" if output.size.kind == "scale" else ""
    sheet = next(
        (
            s.name
            for s in job.sheets
            if output.item_id == s.id or any(i.id == output.item_id for i in walk(s.items))
        ),
        "",
    )
    values = {
        "name": dashed_name(subject_name(job, output.item_id)),
        "number": f"{number:02d}",
        "scale": scale,
        "@scale": f"@{scale}" if scale and scale != "1x" else "",
        "size": f"{size[0]}x{size[1]}",
        "width": str(size[0]),
        "height": str(size[1]),
        "format": output.file.format,
        "sheet": dashed_name(sheet),
        "version": dashed_name(output.version),
    }

    def value(found: "re.Match[str]") -> str:
        if found[1] not in values:
            known = ", ".join(f"{{{w}}}" for w in _WORDS)
            raise ExportError(output.name, f"{{{found[1]}}} stands for nothing", f"use {known}")
        return values[found[1]]

    stem = UNSAFE.sub("-", _WORD.sub(value, output.name)).strip(" .")
    if not stem:
        raise ExportError(output.name or "Name", "the file would have no name", "for example {name}")
    if len(stem.encode()) > LONGEST_NAME:
        raise ExportError(f"{stem[:24]}…", "the name is too long", f"use at most {LONGEST_NAME} bytes")
    return stem
