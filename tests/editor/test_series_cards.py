"""Pictures of a series before it is made: what is made then."""

import numpy as np
import pytest

from glasscap.core.document.edits.groups import group_items
from glasscap.core.document.model.query import find_sheet
from glasscap.core.document.outputs.series import PLACINGS, Placing
from glasscap.core.raster.pixels import premultiplied
from glasscap.core.render.picture import render
from glasscap.core.render.plan.plan import plan_cutout
from glasscap.core.render.plan.spill import roomy_series
from glasscap.editor.frames import ScreenPhotos
from glasscap.editor.series_cards import SeriesRequest, series_card
from tests.core.document.strategies import JOB, STORE
from tests.samples import cache

ITEM, OTHER = JOB.sheets[0].items[0], JOB.photos[2]


@pytest.mark.parametrize("placing", PLACINGS)
def test_a_card_shows_what_is_made(placing: Placing) -> None:
    job, sheet_id = roomy_series(JOB, ITEM.id, [OTHER], placing)
    sheet = find_sheet(job, sheet_id)
    made = render(plan_cutout(job, sheet, sheet.items[0]), STORE, cache())
    request = SeriesRequest(JOB, ITEM.id, OTHER, placing, (400, made.height))
    card = series_card(request, ScreenPhotos(STORE), cache())
    assert np.abs(card.frame.rgba.astype(int) - premultiplied(made.rgba)).max() <= 1


def test_a_card_is_as_large_as_there_is_room() -> None:
    card = series_card(SeriesRequest(JOB, ITEM.id, OTHER, "covering", (400, 60)), ScreenPhotos(STORE), cache())
    assert card.frame.rgba.shape == (60, 60, 4)


def test_of_a_group_there_is_no_picture() -> None:
    job, group_id = group_items(JOB, [ITEM.id])
    card = series_card(SeriesRequest(job, group_id, OTHER, "alike", (60, 60)), ScreenPhotos(STORE), cache())
    assert card.frame is None
