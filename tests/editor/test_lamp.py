"""The lamp: who holds it, who follows, and what a move does to the numbers."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from glasscap.core.document.model.finishes import Bevel, Glow, Lights, Shadow
from glasscap.editor.lamp import (
    Lamp,
    brought_back,
    direction_from,
    follows,
    lamp_of,
    leader_of,
    led_to,
    nudged,
    softened,
    with_lamp,
)
from glasscap.editor.light_lines import light_lines

SIDE = 500.0
DOWN = Lights(shadows=(Shadow(0, 10, 20),), inner_shadow=Shadow(0, 5, 8), bevel=Bevel(direction=-90.0))


def test_the_first_light_with_a_direction_holds_the_lamp() -> None:
    assert leader_of(Lights()) is None
    assert leader_of(Lights(outer_glow=Glow())) is None
    assert leader_of(DOWN)[:2] == ("shadow", 0)
    assert leader_of(replace(DOWN, shadows=(Shadow(0, 10, is_on=False),)))[:2] == ("inner_shadow", 0)
    # One that is not shifted leaves the lamp to one that is, and has it where there is no other.
    unshifted = Lights(shadows=(Shadow(0, 0),), bevel=Bevel())
    assert leader_of(unshifted)[:2] == ("bevel", 0)
    assert leader_of(replace(unshifted, bevel=None))[:2] == ("shadow", 0)


def test_the_lamp_stands_opposite_to_the_shadow() -> None:
    lamp = lamp_of(Lights(shadows=(Shadow(30, 40),)), SIDE)
    assert lamp.direction == pytest.approx(math.degrees(math.atan2(-40, -30)))
    # 50 px are a third of the farthest, 0.3 of the side; the root spreads short distances.
    assert lamp.reach == pytest.approx(math.sqrt(50 / 150))
    assert lamp_of(Lights(bevel=Bevel(direction=15, elevation=1)), SIDE) == Lamp(15, 1.0)


@given(st.floats(-180, 180).map(round), st.floats(0, 1))
def test_a_lamp_set_down_stands_there(direction: int, reach: float) -> None:
    moved = with_lamp(DOWN, Lamp(direction, reach), SIDE)
    lamp = lamp_of(moved, SIDE)
    assert abs(math.remainder(lamp.direction - direction, 360)) < 1
    # Distances are whole px, at least one: the direction is never lost.
    assert abs(lamp.reach**2 - max(reach**2, 1 / 150)) * 150 <= 0.51
    assert all(follows(moved, kind, 0) for kind in ("shadow", "inner_shadow", "bevel"))


def test_followers_keep_their_share_of_the_distance() -> None:
    moved = led_to(DOWN, 180.0, 40.0)
    assert (moved.shadows[0].dx, moved.shadows[0].dy) == (40, 0)
    assert (moved.inner_shadow.dx, moved.inner_shadow.dy) == (20, 0)
    assert moved.bevel == replace(DOWN.bevel, direction=180.0)
    assert moved.shadows[0].blur == 20


def test_what_left_the_lamp_stays_and_is_brought_back() -> None:
    left = replace(DOWN, inner_shadow=Shadow(3, 4))
    assert not follows(left, "inner_shadow", 0)
    moved = led_to(left, 0.0, 10.0)
    assert moved.inner_shadow == left.inner_shadow
    assert moved.bevel.direction == 0
    back = brought_back(moved, "inner_shadow", 0)
    assert follows(back, "inner_shadow", 0)
    assert math.hypot(back.inner_shadow.dx, back.inner_shadow.dy) == pytest.approx(5)
    turned = brought_back(replace(DOWN, bevel=Bevel(direction=33)), "bevel", 0)
    assert turned.bevel.direction == pytest.approx(-90)


def test_keys_turn_and_push_the_wheel_softens() -> None:
    turned = nudged(DOWN, degrees=90)
    assert direction_from(turned.shadows[0]) == pytest.approx(0)
    assert math.hypot(turned.shadows[0].dx, turned.shadows[0].dy) == pytest.approx(10)
    assert nudged(DOWN, px=2).shadows[0].dy == 12
    assert nudged(DOWN, px=-40).shadows[0].dy == 1
    low = nudged(Lights(bevel=Bevel(elevation=35)), px=5)
    assert low.bevel.elevation == 30
    soft = softened(DOWN, 10)
    assert (soft.shadows[0].blur, soft.inner_shadow.blur, soft.bevel.softness) == (30, 12, 6)
    assert softened(DOWN, -99).shadows[0].blur == 0
    assert softened(softened(DOWN, -99), 3).shadows[0].blur == 3


def test_each_kind_has_a_row() -> None:
    names = [line.name for line in light_lines(Lights())]
    assert names == ["Shadow beneath", "Shade within", "Light around", "Light within", "Sloped edge"]
    two = light_lines(replace(DOWN, shadows=(Shadow(0, 10, 20), Shadow(9, 0, 2, is_on=False))))
    assert [(n.name, n.words) for n in two][:3] == [
        ("Shadow beneath", "10 px, blur 20"),
        ("Shadow beneath 2", "off"),
        ("Shade within", "blur 8"),
    ]
    assert [n.has_own_way for n in two] == [False, True, False, False, False, False]
    assert not any(n.is_on for n in light_lines(Lights()))
