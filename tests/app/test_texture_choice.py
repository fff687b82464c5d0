"""The list of textures: each is shown by a small picture of itself."""

import cv2
import numpy as np
import pytest

from glasscap.app.theme.shipped import DATA
from glasscap.app.widgets.texture_choice import TextureChoice
from glasscap.core.textures.tiles import TEXTURES, texture_tile

pytestmark = pytest.mark.shared_window


@pytest.mark.parametrize("name", TEXTURES)
def test_the_small_picture_of_a_texture_is_of_that_texture(name: str) -> None:
    """The pictures are written by ``script/make_texture_icons``."""
    small = cv2.imread(str(DATA / "textures" / f"{name}.png"), cv2.IMREAD_COLOR_RGB)
    scale = 3
    side = small.shape[0]
    piece = texture_tile(name)[: side * scale, : side * scale, :3].astype(float)
    mean = piece.reshape(side, scale, side, scale, 3).mean(axis=(1, 3))
    assert np.abs(small - mean).max() <= 1


def test_every_texture_is_shown_by_a_picture(qapp: object) -> None:
    choice = TextureChoice()
    shown = [choice.itemIcon(n).pixmap(22).toImage() for n in range(len(TEXTURES))]
    assert all(not image.isNull() for image in shown)
    assert len({image.pixel(11, 11) for image in shown}) > len(TEXTURES) // 2
