"""What the worker computes: bench frames, proofs, thumbnails, what goes out, the clipboard."""

import numpy as np

from glasscap.core.document.arranging.by_number import place_shape
from glasscap.core.document.edits import items as edits
from glasscap.core.document.model.outputs import Output
from glasscap.core.document.model.query import find_item
from glasscap.core.formats.png import write_png
from glasscap.core.geometry.types import Affine, PixelBox
from glasscap.core.render.outputs import plan_output
from glasscap.core.render.picture import render
from glasscap.editor.clipboard import copied, items_in, pasted
from glasscap.editor.comparing import CompareRequest, compare
from glasscap.editor.frames import BenchRequest, ScreenPhotos, bench_frame
from glasscap.editor.proofs import ProofRequest, ThumbRequest, proofs, thumbnail
from glasscap.files.jobs import new_store
from tests.core.document.strategies import JOB, STORE
from tests.samples import cache, encoded, noise_rgba, photo_job

FIRST = JOB.sheets[0].items[0]
VIEW = PixelBox(0, 0, 300, 260)


def frame(photos: ScreenPhotos, job=JOB, ghost: str | None = FIRST.id):
    return bench_frame(BenchRequest(job, "s1", Affine(), VIEW, ghost), photos, cache())


def test_a_frame_has_sheet_and_ghost() -> None:
    found = frame(ScreenPhotos(STORE))
    assert found.sheet is not None
    assert found.ghost is not None
    assert not found.drafts
    assert not found.problem


def test_no_ghost_when_there_is_nothing_hidden() -> None:
    assert frame(ScreenPhotos(STORE), edits.set_masked(JOB, [FIRST.id], False)).ghost is None
    assert frame(ScreenPhotos(STORE), ghost=None).ghost is None


def test_a_large_jpeg_is_first_a_draft_then_whole() -> None:
    from PIL import Image

    data = encoded(Image.fromarray(noise_rgba(2000, 1500)[..., :3]), "JPEG")
    job, store = photo_job(data)
    photos = ScreenPhotos(store)
    first = frame(photos, job)
    assert [p.sha256 for p in first.drafts] == [job.photos[0].sha256]
    store.pyramid(job.photos[0])
    assert not frame(photos, job).drafts


def test_a_missing_photo_is_grey_and_said_once_a_frame() -> None:
    photos = ScreenPhotos(new_store())
    found = frame(photos)
    assert "not to be found" in found.problem
    assert found.sheet is not None
    assert found.sheet.rgba[40, 40].tolist() == [150, 150, 150, 255]
    assert not found.drafts


def test_proofs() -> None:
    request = ProofRequest(JOB, "s1", FIRST.id, (120, 80), (64, 32), (26, 11))
    found = proofs(request, ScreenPhotos(STORE), cache())
    assert found.size == (90, 90)
    assert [f.rgba.shape[:2] for f in found.small if f] == [(64, 64), (32, 32)]
    assert found.card is not None
    assert found.card.rgba.shape[0] == 80
    assert found.loupe is not None
    alpha = found.loupe.rgba[..., 3]
    assert alpha.min() == 0
    assert alpha.max() == 255
    empty = place_shape(JOB, FIRST.id, x=9000.0)
    assert "visible" in proofs(replace_job(request, empty), ScreenPhotos(STORE), cache()).problem


def replace_job(request: ProofRequest, job) -> ProofRequest:
    return ProofRequest(job, request.sheet_id, request.cutout_id, request.card, request.small, request.loupe)


def test_thumbnails_fit() -> None:
    found = thumbnail(ThumbRequest(JOB, "s1", FIRST.id, (96, 54)), ScreenPhotos(STORE), cache())
    assert found is not None
    assert found.rgba.shape[:2] == (54, 54)


def test_the_size_of_a_photo_with_own_alpha_is_stated_as_written() -> None:
    rgba = noise_rgba(120, 100)
    rgba[:, :30, 3] = 0
    rgba[80:, :, 3] = 0
    job, store = photo_job(write_png(rgba))
    cutout = job.sheets[0].items[0].id
    output = Output("o1", cutout)
    written = render(plan_output(job, output, store, cache()).plan, store, cache())
    assert written.width < 90
    assert written.height <= 80
    stated = proofs(ProofRequest(job, "s1", cutout, (90, 60), (32,), (26, 11)), ScreenPhotos(store), cache())
    assert stated.size == (written.width, written.height)
    found = compare(CompareRequest(job, output, (300, 300)), ScreenPhotos(store), cache())
    assert found.size == (written.width, written.height)


def test_cutouts_travel_between_jobs() -> None:
    data = copied(JOB, "s1", [FIRST.id], STORE)
    found = pasted(data, ())
    assert found is not None
    assert items_in(found) == (FIRST,)
    assert list(found.photos) == [JOB.photos[0].sha256]
    other, _ = photo_job(encoded_png())
    joined = edits.paste_items(other, "s1", items_in(found), found.job.photos)
    assert find_item(joined, joined.sheets[0].items[-1].id).shape_placement == FIRST.shape_placement
    there = pasted(data, STORE)
    assert there is not None
    assert (there.job, there.photos) == (found.job, {})
    assert pasted(b"nonsense", ()) is None


def encoded_png() -> bytes:
    from tests.samples import png_photo

    return png_photo(50, 50, seed=8)


def test_frames_do_not_share_memory_with_the_photo() -> None:
    found = frame(ScreenPhotos(STORE))
    assert found.sheet is not None
    assert not np.shares_memory(found.sheet.rgba, STORE.pyramid(JOB.photos[0]).photo.rgba)
