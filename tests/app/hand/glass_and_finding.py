"""The lamp, the glass over the export's picture, and commands found by words, by hand."""

from driver import Hand, items_of, play, until, x


def scenario(folder):
    hand = Hand("--demo")
    hand.click("Cutout Blue plate")

    # A command by its everyday word; a step by another; a control has the keys.
    hand.key("F3")
    hand.type("release")
    hand.key("Return")
    apart = items_of(hand.save_as(folder / "apart.glasscap"))
    assert apart["Blue plate"]["shape"] is None, apart["Blue plate"]
    hand.key("ctrl+z", "F3")
    hand.type("border")
    hand.key("Return")
    until(lambda: hand.has("Across the edge"), "the strokes are open")
    hand.key("F3")
    hand.type("feather px")
    hand.key("Return")
    field = hand.find("Feather, px", "text")
    until(lambda: hand.has_focus(field), "the feather's field has the keys")
    hand.key("Escape", "Escape")

    # The lamp: dragged to the left the shadow falls to the right; Ctrl+Z takes one step back.
    hand.click("Cutout Blue plate")
    hand.key("F3")
    hand.type("shadow beneath")
    hand.key("Return")
    lamp = hand.find("Lamp", exact=True)
    until(lambda: hand.box(lamp)[3] > 100, "the lamp is in view")
    left, top, width, height = hand.box(lamp)
    hand.drag((left + width // 2 + 40, top + height // 2 - 40), (left + 20, top + height // 2))
    lit = items_of(hand.save_as(folder / "lit.glasscap"))["Blue plate"]["finishes"]["lights"]["shadows"][0]
    assert lit["dx"] > 40, lit
    assert abs(lit["dy"]) < 3, lit
    # The lamp has the keys: three notches are one step; a drag that Escape ends is none.
    until(lambda: hand.has_focus(lamp), "the lamp has the keys")
    hand.rest(0.8)
    hand.wheel(lamp, 3, up=True)
    soft = items_of(hand.save(folder / "lit.glasscap"))["Blue plate"]["finishes"]["lights"]["shadows"][0]
    assert soft["blur"] == lit["blur"] + 3, soft
    x("mousemove", left + width - 20, top + 20, "mousedown", 1, "mousemove", left + width - 30, top + 40)
    # Without clearing what is held: that would let the lamp go.
    x("key", "Escape")
    hand.rest()
    x("mouseup", 1)
    hand.key("ctrl+z")
    hard = items_of(hand.save(folder / "lit.glasscap"))["Blue plate"]["finishes"]["lights"]["shadows"][0]
    assert hard == lit, hard
    # With the keys elsewhere the wheel scrolls the panel.
    hand.click("Bench", at=(8, 8), exact=True)
    hand.click("Cutout Blue plate")
    hand.wheel(lamp, 3)
    assert hand.has("saved", exact=True), "the wheel over the lamp changed the job"
    hand.wheel(lamp, 3, up=True)
    hand.click("Shade within", "check box", exact=True)
    hand.key("ctrl+z", "ctrl+z")
    back = items_of(hand.save(folder / "lit.glasscap"))["Blue plate"]["finishes"]["lights"]
    assert back["shadows"][0]["dx"] == 0, back
    assert "inner_shadow" not in back, back

    # A soft contour, its band painted wider by a drag on the bench; Escape gives the brush back.
    hand.click("Cutout Jug")
    left, top, _, high = hand.box(hand.find("Steps", "panel", exact=True))
    hand.wheel((left + 170, top + high // 2), 30, up=True)
    hand.click("Step: Edge")
    hand.click("Soft contour", "check box", exact=True)
    hand.click("Widen the band by a brush")
    jug = items_of(hand.save(folder / "lit.glasscap"))["Jug"]
    at = jug["shape_placement"]
    rim = {"x": at["x"] + at["width"] / 2, "y": at["y"]}
    start = hand.on_sheet({"shape_placement": rim})
    hand.drag(start, (start[0] + 6, start[1] + 30))
    hand.key("Escape")
    soft = items_of(hand.save(folder / "lit.glasscap"))["Jug"]["finishes"]["edge"]["soft"]
    assert len(soft["strokes"]) == 1, soft
    assert soft["width"] > 5, soft
    hand.key("ctrl+z", "ctrl+z")
    plain = items_of(hand.save(folder / "lit.glasscap"))["Jug"]["finishes"]["edge"]
    assert "soft" not in plain, plain

    # The glass: it follows, is set down by a click, and F shows the file while it is held.
    hand.click("Cutout Blue plate")
    hand.key("ctrl+e")
    stage = hand.find("Bench and file compared")
    # The keys are the picture's at once.
    until(lambda: hand.has_focus(stage), "the picture has the keys")
    until(lambda: not hand.has("Making the file"), "the file is made", 60)
    left, top, width, height = hand.box(stage)
    hand.click("Glass: Glass 8×", exact=True)
    hand.click_at((left + width // 2, top + height // 2))
    until(lambda: "1 set down" in stage.description, "a glass lies")
    hand.click_at((left + width // 2 - 200, top + height // 2 - 150))
    until(lambda: "2 set down" in stage.description, "a second one lies elsewhere")
    hand.click_at((left + width // 2, top + height // 2))
    until(lambda: "1 set down" in stage.description, "a click lifts it")
    x("keydown", "f")
    until(lambda: "Shows the file" in stage.description, "F held shows the file")
    x("keyup", "f")
    until(lambda: "Shows the bench" in stage.description, "F let go shows the bench")
    hand.click("Difference", exact=True)
    until(lambda: "Shows the difference" in stage.description, "the difference is shown")

    # A row opens in place; the wheel over its fields scrolls; a double click, also on a row that moves away under
    # the pointer as it opens, renames the file.
    hand.click("Difference", exact=True)
    rows = hand.find("What goes out", exact=True)
    hand.wheel(rows, 30, up=True)
    hand.click("Blue plate, blue-plate.webp", times=2)
    hand.type("plate small")
    hand.key("Return")
    until(lambda: hand.has("plate small.webp"), "the row has its new name")
    quality = hand.find("Quality slider", exact=True)
    before = hand.value(quality)
    left, top, width, height = hand.box(rows)
    hand.wheel((left + width // 2, top + height // 2), 4)
    hand.wheel((left + width // 2, top + height // 2), 30, up=True)
    assert hand.value(quality) == before
    hand.click("Keeps transparency: PNG", exact=True)
    until(lambda: hand.has("plate small.png"), "the chosen format is the row's")
    hand.key("ctrl+z", "ctrl+z")
    until(lambda: hand.has("Blue plate, blue-plate.webp"), "both are taken back")
    errors = hand.close()
    assert "Traceback" not in errors, errors


play(scenario)
