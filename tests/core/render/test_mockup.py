"""Pictures in places: perspective, fit, seams, light, what stands before."""

import cv2
import numpy as np
import pytest

from glasscap.core.errors import CancelledError
from glasscap.core.geometry.homography import square_to_quad
from glasscap.core.geometry.polygon import total_area
from glasscap.core.mockup.picture import distortion, fitted, mockup, wanted_size
from glasscap.core.mockup.place import Place, Surface, frame_aspect
from tests.samples import noise_rgba

QUAD = ((40.5, 30.2), (170.3, 44.8), (160.1, 120.6), (28.7, 131.9))


def place(*surfaces: Surface, grey: int = 0, **more: object) -> Place:
    backdrop = np.full((160, 200, 4), grey, np.uint8)
    backdrop[..., 3] = 255
    found = surfaces or (Surface(QUAD),)
    return Place("test", "Test", more.pop("aspect", frame_aspect(QUAD)), found, backdrop, **more)


def flat(colour: tuple[int, int, int] = (255, 255, 255), size: tuple[int, int] = (120, 80)) -> np.ndarray:
    rgba = np.full((size[1], size[0], 4), 255, np.uint8)
    rgba[..., :3] = colour
    return rgba


@pytest.mark.parametrize(
    ("aspect", "frame", "fit", "expected"),
    [
        (2, 1, "contain", (0, 0.25, 1, 0.75)),
        (2, 1, "cover", (-0.5, 0, 1.5, 1)),
        (0.5, 1, "contain", (0.25, 0, 0.75, 1)),
        (0.5, 1, "cover", (0, -0.5, 1, 1.5)),
        (2, 1, "stretch", (0, 0, 1, 1)),
        (1.5, 1.5, "cover", (0, 0, 1, 1)),
    ],
)
def test_fits_keep_proportions_unless_asked(aspect, frame, fit, expected) -> None:
    assert fitted(aspect, frame, fit) == pytest.approx(expected)
    assert distortion(aspect, frame, fit) == (2 if fit == "stretch" else 1)


def test_the_picture_lies_where_opencv_puts_it() -> None:
    # Smooth, so that the two ways of filtering agree.
    picture = np.asarray(cv2.GaussianBlur(noise_rgba(240, 160), (0, 0), 4))
    ours = mockup(place(), picture, "stretch")
    corners = np.array([(-0.5, -0.5), (239.5, -0.5), (239.5, 159.5), (-0.5, 159.5)], np.float32)
    matrix = cv2.getPerspectiveTransform(corners, (np.array(QUAD) - 0.5).astype(np.float32))
    theirs = cv2.warpPerspective(picture, matrix, (200, 160), flags=cv2.INTER_LINEAR)
    inside = cv2.erode((theirs[..., 3] == 255).astype(np.uint8), np.ones((5, 5))) > 0
    assert inside.sum() > 8000
    difference = np.abs(ours[inside].astype(int) - theirs[inside])
    assert difference.max() <= 3


@pytest.mark.parametrize("scale", [0.5, 1.0, 1.6])
def test_its_coverage_is_the_quadrilaterals_area(scale: float) -> None:
    out = mockup(place(), flat(), "stretch", scale)
    assert out.shape == (round(160 * scale), round(200 * scale), 4)
    area = abs(total_area((np.array(QUAD) * scale,)))
    assert out[..., 0].astype(float).sum() / 255 == pytest.approx(area, rel=2e-4)
    assert (out[..., 3] == 255).all()


def test_contained_pictures_show_the_place_around_them() -> None:
    out = mockup(place(grey=90), flat(size=(40, 160)), "contain")
    matrix = square_to_quad(QUAD)
    for u, level in ((0.05, 90), (0.5, 255), (0.95, 90)):
        x, y, w = matrix @ (u, 0.5, 1)
        assert out[int(y / w), int(x / w), 0] == level


def test_covering_pictures_end_at_the_place() -> None:
    out = mockup(place(), flat(size=(40, 160)), "cover")
    assert out[..., 0].astype(float).sum() / 255 == pytest.approx(abs(total_area((np.array(QUAD),))), rel=2e-4)


def test_two_pieces_of_a_folded_sheet_meet_without_a_seam() -> None:
    left = Surface(((20.0, 30.0), (99.6, 20.0), (99.6, 140.0), (20.0, 130.0)), (0, 0, 0.5, 1))
    right = Surface(((99.6, 20.0), (180.0, 34.0), (180.0, 128.0), (99.6, 140.0)), (0.5, 0, 1, 1))
    out = mockup(place(left, right, aspect=1.5), flat(), "stretch")
    assert (out[60:100, 25:175, 0] == 255).all()


def test_light_and_mask_are_laid_over_it() -> None:
    light = np.full((4, 5), 0.5, np.float32)
    mask = np.ones((160, 200), np.float32)
    mask[:, 100:] = 0
    out = mockup(place(light=light, mask=mask, grey=40), flat(), "stretch")
    assert out[80, 60, 0] == 128
    assert out[80, 140, 0] == 40


def test_light_never_makes_a_picture_more_than_full() -> None:
    out = mockup(place(light=np.full((4, 5), 3.0, np.float32)), flat((200, 10, 10)), "stretch")
    assert out[80, 100].tolist() == [255, 30, 30, 255]


def test_a_bend_moves_what_is_seen() -> None:
    picture = flat((0, 0, 0), (200, 160))
    picture[:, 90:110, :3] = 255
    whole = Surface(((0.0, 0.0), (200.0, 0.0), (200.0, 160.0), (0.0, 160.0)))
    still = mockup(place(whole, aspect=1.25, bend=np.zeros((5, 6, 2), np.float32)), picture, "stretch")
    shifted = np.zeros((5, 6, 2), np.float32)
    shifted[..., 0] = 0.1
    moved = mockup(place(whole, aspect=1.25, bend=shifted), picture, "stretch")
    assert still[80, 100, 0] == 255
    assert (moved[80, 75:85, 0] > 250).all()
    assert moved[80, 100, 0] == 0


def test_transparent_pictures_let_the_place_through() -> None:
    picture = np.zeros((80, 120, 4), np.uint8)
    picture[..., 3] = 128
    out = mockup(place(grey=200), picture, "stretch")
    assert out[80, 100, 0] == pytest.approx(200 * (1 - 128 / 255), abs=1)


def test_pictures_are_asked_for_as_fine_as_they_are_sampled() -> None:
    width, height = wanted_size(place(), frame_aspect(QUAD), "stretch")
    assert width == pytest.approx(2 * 132, abs=4)
    assert height == pytest.approx(2 * 102, abs=4)


def test_it_can_be_called_off() -> None:
    def stop() -> None:
        raise CancelledError("Work", "stopped")

    with pytest.raises(CancelledError):
        mockup(place(), flat(), "stretch", check=stop)
