"""Proofs: small as browsers draw, round, enlarged elsewhere, on any background."""

import numpy as np
import pytest
from msgspec.structs import replace

from glasscap.core.document.model.backdrop import PhotoBackdrop
from glasscap.core.document.model.finishes import Edge, Finishes
from glasscap.core.document.model.paint import ColourPaint, GradientPaint, Stop
from glasscap.core.document.model.placement import ContentPlacement
from glasscap.core.document.model.proofs import ProofSettings, VideoCorner
from glasscap.core.document.outputs.proofs import (
    add_background,
    remove_background,
    set_background,
    set_sizes,
    set_video,
)
from glasscap.core.errors import FinishError
from glasscap.core.formats.job import read_job, write_job
from glasscap.editor.frames import ScreenPhotos
from glasscap.editor.proof_pictures import filtered_elsewhere, made_round, made_small, rim_near
from glasscap.editor.proofs import ProofRequest, loupe_view, proofs
from tests.core.formats.test_encodings import DISC
from tests.core.render.finished_samples import JOB, STORE, job_with
from tests.samples import cache


def premultiplied(rgba: np.ndarray) -> np.ndarray:
    out = rgba.astype(float)
    out[..., :3] *= out[..., 3:] / 255
    return out


@pytest.mark.parametrize("side", [60, 40, 24])
def test_small_is_the_mean_of_premultiplied_pixels(side: int) -> None:
    found = made_small(DISC, side).rgba
    k = 120 // side
    assert found.shape == (side, side, 4)
    exact = premultiplied(DISC).reshape(side, k, side, k, 4).mean(axis=(1, 3))
    assert np.abs(found - exact).max() <= 1.0


def test_a_round_avatar_is_a_circle() -> None:
    solid = np.full((30, 50, 4), 255, np.uint8)
    found = made_round(solid, 40).rgba
    alpha = found[..., 3] / 255
    # A 50 x 30 picture in a square of 50: a band of 24 px of the 40 is filled, cut by the circle.
    y = np.linspace(-12, 12, 20001)
    assert alpha.sum() == pytest.approx(np.trapezoid(2 * np.sqrt(400 - y**2), y), rel=0.01)
    assert alpha[20, 20] == 1
    assert alpha[0].max() == 0
    assert np.array_equal(found[..., 0], found[..., 3])


def test_filtering_straight_alpha_darkens_and_carried_colour_does_not() -> None:
    piece = np.zeros((12, 20, 4), np.uint8)
    piece[:, :10] = (240, 230, 220, 255)
    bare, carried = (filtered_elsewhere(piece, 8, by).rgba.astype(float) for by in (0, 3))
    assert bare.shape == (96, 160, 4)
    # Over white the rim should run from light to white; where black is mixed in it gets darker than both.
    over = [(p[..., :3] + 255 * (1 - p[..., 3:] / 255))[48] for p in (bare, carried)]
    assert over[0].min() < 200
    assert over[1].min() >= 219
    assert np.array_equal(bare[..., 3], carried[..., 3])


def test_the_rim_is_where_the_picture_ends() -> None:
    x, y = rim_near(DISC, (120, 60))
    assert DISC[y, x, 3] >= 128
    assert DISC[y, x + 1, 3] < 128
    assert abs(y - 60) <= 1
    assert rim_near(np.zeros((5, 5, 4), np.uint8), (2, 3)) == (2, 3)


def request(job, **changes: object) -> ProofRequest:
    sheet = job.sheets[0]
    base = ProofRequest(job, sheet.id, sheet.items[0].id, (100, 70), (48, 16), (24, 10), 20, (24,))
    return replace(base, **changes)


def test_all_proofs_come_at_their_sizes() -> None:
    job = add_background(job_with(), GradientPaint((Stop(0, "#000000"), Stop(1, "#ffffff")), angle=0))
    job = add_background(job, PhotoBackdrop(job.photos[0].sha256))
    found = proofs(request(job), ScreenPhotos(STORE), cache())
    assert found.problem == ""
    assert [max(f.rgba.shape[:2]) for f in found.small] == [48, 16]
    assert max(found.corner.rgba.shape[:2]) == 20
    assert [f.rgba.shape for f in found.avatars] == [(24, 24, 4)]
    assert len(found.fringes) == 2
    gradient, photo = found.backgrounds
    assert gradient.rgba.shape == photo.rgba.shape == (70, 100, 4)
    assert gradient.rgba[35, 3, 0] < 20 < 230 < gradient.rgba[35, 96, 0]
    assert np.array_equal(photo.rgba[35, 50], [40, 160, 220, 255])


def test_the_loupe_follows_the_pointer() -> None:
    job = job_with()
    left, right = (
        loupe_view(request(job, at=place), ScreenPhotos(STORE), cache()) for place in ((0, 100), (240, 100))
    )
    # At the left rim the picture is at the right of the loupe, at the right rim at its left.
    assert left.loupe.rgba[5, 2, 3] == 0
    assert left.loupe.rgba[5, -3, 3] == 255
    assert right.loupe.rgba[5, 2, 3] == 255
    assert right.loupe.rgba[5, -3, 3] == 0
    assert len(left.fringes) == 2


def test_settings_are_edited_kept_and_refused() -> None:
    job = add_background(add_background(JOB, ColourPaint("#102030")), ColourPaint("#405060"))
    job = set_background(job, 0, ColourPaint("#ffffff"))
    job = set_sizes(set_video(job, VideoCorner("top left", 0.3, is_moving=True)), (16, 64, 16))
    assert job.proofs.sizes == (64, 16)
    assert read_job(write_job(job, STORE.data), "x").job == job
    assert remove_background(job, 0).proofs.backgrounds == (ColourPaint("#405060"),)
    for sizes in ((), (4,), (900,), tuple(range(10, 80))):
        with pytest.raises(FinishError):
            set_sizes(job, sizes)
    with pytest.raises(FinishError, match="margin"):
        VideoCorner(margin=0.9)
    with pytest.raises(FinishError, match="more than 24"):
        ProofSettings(backgrounds=(ColourPaint(),) * 25)


def test_nothing_visible_is_no_error_under_the_pointer() -> None:
    job = job_with(Finishes(edge=Edge(feather=12)), content_placement=ContentPlacement(5000, 5000, 1, 1))
    sheet = job.sheets[0]
    request = ProofRequest(job, sheet.id, sheet.items[0].id, (100, 70), (32,), (20, 20), at=(10.0, 10.0))
    seen = loupe_view(request, ScreenPhotos(STORE), cache())
    assert (seen.loupe, seen.fringes) == (None, ())
    assert proofs(request, ScreenPhotos(STORE), cache()).problem == "Nothing of it is visible"


def test_a_sheet_is_proofed_whole() -> None:
    sheet = JOB.sheets[0]
    found = proofs(
        ProofRequest(JOB, sheet.id, sheet.id, (100, 70), (32,), (20, 20)), ScreenPhotos(STORE), cache()
    )
    assert found.problem == ""
    assert found.size == (sheet.width, sheet.height)
    assert found.loupe is not None
