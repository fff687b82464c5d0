"""Letters against the fonts' own tables, read by another library."""

import pytest
from fontTools.pens.areaPen import AreaPen
from fontTools.pens.boundsPen import BoundsPen
from fontTools.ttLib import TTFont
from fontTools.varLib.instancer import instantiateVariableFont

from glasscap.core.errors import ShapeError
from glasscap.core.geometry.bezier import outline_box
from glasscap.core.geometry.flatten import flatten
from glasscap.core.geometry.polygon import signed_area
from glasscap.core.shapes.kinds import Letters, LettersShape
from glasscap.core.shapes.outlines import own_box
from glasscap.core.shapes.typesetting import load_face, set_type
from glasscap.files.font_book import DEFAULT_FONT, SHIPPED, FontBook

BOOK = FontBook(has_system=False)


def _font(name: str) -> TTFont:
    return TTFont(BOOK.families[name][0].path)


def _set(text: str, font: str = DEFAULT_FONT, **how: object):
    return set_type(Letters(text, font, **how), BOOK)


@pytest.mark.parametrize("family", ["Abril Fatface", "Alfa Slab One", "Anton"])
@pytest.mark.parametrize("letter", ["K", "o", "&", "ß"])
def test_outlines_are_the_font_s(family: str, letter: str) -> None:
    font = _font(family)
    glyphs, upem = font.getGlyphSet(), font["head"].unitsPerEm
    name = font.getBestCmap()[ord(letter)]
    bounds, area = BoundsPen(glyphs), AreaPen(glyphs)
    glyphs[name].draw(bounds)
    glyphs[name].draw(area)
    ((_, outline),) = _set(letter, family).clusters
    box = outline_box(outline)
    x0, y0, x1, y1 = bounds.bounds
    assert (box.width, box.height) == pytest.approx(((x1 - x0) / upem, (y1 - y0) / upem), abs=2e-4)
    found = sum(signed_area(p) for p in flatten(outline, tolerance=1e-6))
    assert found == pytest.approx(abs(area.value) / upem**2, rel=2e-3)


def test_advances_are_the_font_s() -> None:
    font = _font("Anton")
    cmap, metrics, upem = font.getBestCmap(), font["hmtx"].metrics, font["head"].unitsPerEm
    made = _set("HIH", "Anton", align="left")
    # No pair of these letters is kerned: the caret stands at the sums of the advances.
    steps = [metrics[cmap[ord(c)]][0] / upem for c in "HIH"]
    assert [c.x for c in made.carets] == pytest.approx([0, steps[0], steps[0] + steps[1], sum(steps)], abs=1e-6)


def test_a_known_pair_is_kerned() -> None:
    apart = [c.x for c in _set("AV", "Oswald", align="left").carets][-1]
    alone = sum([c.x for c in _set(t, "Oswald", align="left").carets][-1] for t in "AV")
    font = _font("Oswald")
    assert "GPOS" in font
    kern = _pair_value(font, "A", "V") / font["head"].unitsPerEm
    assert kern < -0.005
    assert apart - alone == pytest.approx(kern, abs=1e-6)


def _pair_value(font: TTFont, one: str, other: str) -> float:
    """The horizontal advance GPOS lookup type 2 takes from a pair at the default weight."""
    cmap = font.getBestCmap()
    first, second = cmap[ord(one)], cmap[ord(other)]
    gpos = font["GPOS"].table
    indices = {
        i for f in gpos.FeatureList.FeatureRecord if f.FeatureTag == "kern" for i in f.Feature.LookupListIndex
    }
    for index in sorted(indices):
        for sub in gpos.LookupList.Lookup[index].SubTable:
            sub = getattr(sub, "ExtSubTable", sub)
            if sub.LookupType != 2 or first not in sub.Coverage.glyphs:
                continue
            if sub.Format == 1:
                pairs = sub.PairSet[sub.Coverage.glyphs.index(first)].PairValueRecord
                for record in pairs:
                    if record.SecondGlyph == second:
                        return record.Value1.XAdvance
            else:
                one_class = sub.ClassDef1.classDefs.get(first, 0)
                other_class = sub.ClassDef2.classDefs.get(second, 0)
                return sub.Class1Record[one_class].Class2Record[other_class].Value1.XAdvance
    return 0.0


def test_a_variable_weight_is_the_instance_another_library_cuts() -> None:
    font = instantiateVariableFont(TTFont(SHIPPED / "Oswald[wght].ttf"), {"wght": 650})
    glyphs = font.getGlyphSet()
    pen = BoundsPen(glyphs)
    glyphs[font.getBestCmap()[ord("H")]].draw(pen)
    ((_, outline),) = _set("H", "Oswald", weight=650).clusters
    box = outline_box(outline)
    assert box.width == pytest.approx((pen.bounds[2] - pen.bounds[0]) / font["head"].unitsPerEm, abs=2e-3)
    assert _ink("H", 700) > _ink("H", 400) > _ink("H", 200)


def _ink(text: str, weight: float) -> float:
    ((_, outline),) = _set(text, "Oswald", weight=weight).clusters
    return sum(signed_area(p) for p in flatten(outline, tolerance=1e-5))


def test_ligatures_join_and_part_with_tracking() -> None:
    joined = _set("office", "Pacifico")
    apart = _set("office", "Pacifico", tracking=50)
    assert len(apart.clusters) == 6
    assert len(joined.clusters) <= 6
    wide = (
        _set("HH", "Anton", tracking=500, align="left").carets[1].x
        - _set("HH", "Anton", align="left").carets[1].x
    )
    assert wide == pytest.approx(0.5, abs=1e-6)


def test_lines_and_alignment() -> None:
    made = {a: _set("WW\nI", "Anton", align=a, line=1.5) for a in ("left", "centre", "right")}
    first = {a: m.carets[0].x for a, m in made.items()}
    second = {a: m.carets[3] for a, m in made.items()}
    assert first["left"] == second["left"].x == 0
    assert second["left"].y == 1.5
    assert made["right"].carets[2].x == pytest.approx(0)
    # Lines end at 0 when set right, and lie around it when centred.
    wide = _font("Anton")["hmtx"].metrics[_font("Anton").getBestCmap()[ord("I")]][0]
    advance = wide / _font("Anton")["head"].unitsPerEm
    assert second["right"].x == pytest.approx(-advance, abs=1e-6)
    assert second["centre"].x == pytest.approx(-advance / 2, abs=1e-6)
    assert first["centre"] == pytest.approx(-made["centre"].carets[2].x)


def test_right_to_left_words_read_from_the_right_and_fall_back() -> None:
    book = FontBook()
    if not book.fallbacks("ש"):
        pytest.skip("no installed font has Hebrew")
    made = set_type(Letters("שלום", "Anton", align="left"), book)
    assert [c.x for c in made.carets] == sorted((c.x for c in made.carets), reverse=True)
    assert made.missing == ""
    mixed = set_type(Letters("abc שלום 12", "Anton", align="left"), book)
    boxes = dict(zip([t for t, _ in mixed.clusters], [outline_box(o) for _, o in mixed.clusters], strict=True))
    assert boxes["a"].x0 < boxes["1"].x0 < boxes["2"].x0 < boxes["ם"].x0 < boxes["ש"].x0


def test_letters_on_a_circle() -> None:
    made = _set("ROUND AND ROUND", "Anton", circle=3.0)
    # Every foot is a radius from the centre, which lies a radius below the origin.
    assert all((c.x**2 + (c.y - 3) ** 2) ** 0.5 == pytest.approx(3, abs=1e-9) for c in made.carets)
    inside = _set("ROUND", "Anton", circle=-3.0)
    assert all((c.x**2 + (c.y + 3) ** 2) ** 0.5 == pytest.approx(3, abs=1e-9) for c in inside.carets)
    assert all(c.up_y < 0 for c in inside.carets)


def test_a_missing_font_is_replaced_and_keeps_its_name() -> None:
    made = _set("KILN", "Nowhere Sans")
    assert made.is_replaced
    assert made.letters.font == "Nowhere Sans"
    assert made.path == _set("KILN", DEFAULT_FONT).path


@pytest.mark.parametrize("text", ["", "   ", "\n\n", "\U000f1234"])
def test_text_without_anything_to_see_is_refused(text: str) -> None:
    with pytest.raises(ShapeError, match=r"nothing to see|none of these"):
        _set(text)


def test_a_file_that_is_no_font_is_refused() -> None:
    with pytest.raises(ShapeError, match="no font"):
        load_face(b"not a font at all", "fake.ttf")


def test_the_box_of_the_shape_is_the_ink_s() -> None:
    made = _set("KILN", "Anton")
    shape = LettersShape(made.letters, made.path)
    boxes = [outline_box(o) for _, o in made.clusters]
    box = own_box(shape)
    assert box.x0 == pytest.approx(min(b.x0 for b in boxes), abs=1e-5)
    assert box.x1 == pytest.approx(max(b.x1 for b in boxes), abs=1e-5)
