"""Shadow, light and mount, driven control by control."""

import pytest
from msgspec.structs import replace

from glasscap.core.document.model.finishes import NO_FINISHES, Shadow, Stroke
from glasscap.core.document.model.paint import ColourPaint
from glasscap.editor.step_words import lights_words
from tests.app.conftest import Hand, finishes

pytestmark = pytest.mark.shared_window


@pytest.mark.parametrize("kind", ["shadow", "inner_shadow", "outer_glow", "inner_glow", "bevel"])
def test_every_light_is_added_hidden_and_taken_away(placed: Hand, steps, kind: str) -> None:
    steps.open_only("light")
    steps.light.add_light(kind)
    placed.settle()
    row = next(r for r in steps.light.rows.rows if r.switch.isChecked())
    row.switch.click()
    assert lights_words(placed.item().finishes) == "none"
    row.delete_asked.emit()
    assert finishes(placed).lights == NO_FINISHES.lights


LIGHT_NUMBERS = {
    "blur": ("shadow", "blur", "40", 40.0),
    "spread": ("shadow", "spread", "-3", -3.0),
    "opacity": ("shadow", "opacity", "80", 0.8),
    "distance": ("shadow", "dy", "20", 20.0),
    "direction": ("shadow", "dx", "0", 5.0),
    "slope": ("bevel", "width", "22", 22.0),
    "softness": ("bevel", "softness", "9", 9.0),
    "elevation": ("bevel", "elevation", "60", 60.0),
}


@pytest.mark.parametrize("row", LIGHT_NUMBERS)
def test_light_numbers_are_typed_and_undone(placed: Hand, steps, row: str) -> None:
    kind, field, typed, value = LIGHT_NUMBERS[row]
    steps.open_only("light")
    steps.light.add_light(kind)
    placed.settle()

    def now() -> object:
        lights = finishes(placed).lights
        return lights.shadows[0] if kind == "shadow" else lights.bevel

    before = now()
    placed.type(getattr(steps.light, row).field, typed)
    assert getattr(now(), field) == value
    placed.do("undo")
    assert now() == before


def test_a_shadow_is_turned_shifted_coloured_and_cleared(placed: Hand, steps) -> None:
    steps.open_only("light")
    steps.light.add_light("shadow")
    placed.settle()
    placed.type(steps.light.direction.field, "0")
    shadow = finishes(placed).lights.shadows[0]
    assert (shadow.dx, shadow.dy) == (5, 0)
    placed.type(steps.light.place.second, "9")
    steps.light.colour.stepped.emit("#334455")
    steps.light.clear.click()
    assert finishes(placed).lights.shadows[0] == replace(
        Shadow(5, 9, 10), colour="#334455", is_clear_beneath=True
    )
    steps.light.place.reset_asked.emit()
    assert finishes(placed).lights.shadows[0].dx == 0


def test_a_bevel_is_coloured_turned_and_moved_outside(placed: Hand, steps) -> None:
    steps.open_only("light")
    steps.light.add_light("bevel")
    placed.settle()
    steps.light.highlight.stepped.emit("#ffeedd80")
    steps.light.shade.stepped.emit("#11223380")
    steps.light.side.buttons["outer"].click()
    placed.type(steps.light.direction.field, "15")
    bevel = finishes(placed).lights.bevel
    assert (bevel.highlight, bevel.shade, bevel.side, bevel.direction) == ("#ffeedd80", "#11223380", "outer", 15)


def test_a_mount_is_made_margined_painted_and_switched_off(placed: Hand, steps) -> None:
    steps.open_only("mount")
    steps.mount.is_on.click()
    placed.settle()
    placed.type(steps.mount.fields["top"], "30")
    assert (finishes(placed).mount.left, finishes(placed).mount.top) == (30, 30)
    placed.settle()
    steps.mount.link.click()
    placed.type(steps.mount.fields["left"], "12")
    assert (finishes(placed).mount.left, finishes(placed).mount.top) == (12, 30)
    steps.mount.heavy.click()
    assert finishes(placed).mount.bottom == 105
    steps.mount.even.click()
    placed.type(steps.mount.corner.field, "9")
    placed.type(steps.mount.opacity.field, "70")
    steps.mount.paint.well.stepped.emit("#f4e9d8")
    mount = finishes(placed).mount
    assert (mount.bottom, mount.corner, mount.opacity, mount.paint.colour) == (30, 9, 0.7, "#f4e9d8")
    steps.mount.is_on.click()
    assert finishes(placed).mount == replace(mount, is_on=False)


def test_a_mount_has_its_own_stroke_and_shadow(placed: Hand, steps) -> None:
    steps.open_only("mount")
    steps.mount.is_on.click()
    placed.settle()
    steps.mount.stroke.click()
    steps.mount.shadow.click()
    placed.settle()
    placed.type(steps.mount.stroke_width.field, "4")
    placed.type(steps.mount.shadow_down.field, "11")
    placed.type(steps.mount.shadow_blur.field, "33")
    steps.mount.stroke_colour.stepped.emit("#102030")
    steps.mount.shadow_colour.stepped.emit("#203040")
    mount = finishes(placed).mount
    assert mount.stroke == Stroke(4, ColourPaint("#102030"), "inside")
    assert mount.shadow == Shadow(0, 11, 33, colour="#203040")
