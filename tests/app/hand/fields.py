"""Number and colour fields, the wheel over panels, by hand."""

from driver import Hand, items_of, play, until


def scenario(folder):
    hand = Hand("--demo")
    path = folder / "fields.glasscap"
    hand.click("Cutout Blue plate")
    width = hand.find("Width, px", "text")
    # The first click marks all of it, a sum is reckoned, Enter gives the keys to the bench.
    hand.click(width)
    assert hand.marked(width) == hand.text(width), hand.marked(width)
    hand.type("840/5")
    hand.key("Return")
    until(lambda: hand.text(width) == "168", "840/5 is 168")
    until(lambda: hand.has_focus(hand.find("Bench", exact=True)), "the bench has the keys")
    hand.key("p")
    until(lambda: hand.is_on(hand.find("Grip: Photo")), "P holds the photo")
    hand.key("t", "ctrl+z")
    # Tab goes on and marks the next value, also one that changed meanwhile.
    hand.click(width)
    hand.type("400")
    hand.key("Tab")
    height = hand.find("Height, px", "text")
    until(lambda: hand.text(height) == "400", "a circle is as high as wide")
    assert hand.marked(height) == "400", hand.marked(height)
    hand.type("300")
    hand.key("Return")
    until(lambda: hand.text(width) == "300", "the circle is 300 wide")
    # Escape brings the value back.
    hand.click(width)
    hand.type("12")
    hand.key("Escape")
    assert hand.text(width) == "300"
    hand.key("Escape")
    hand.click("Cutout Blue plate")
    before = items_of(hand.save_as(path))["Blue plate"]
    assert before["shape_placement"]["width"] == 300

    # A colour is typed.
    hand.click("Step: Strokes")
    colour = hand.find("Paint colour", "text")
    hand.click(colour)
    hand.type("rebeccapurple")
    hand.key("Return")
    until(lambda: hand.text(colour) == "#663399", "a name of CSS is taken")
    hand.click(colour)
    hand.type("brownish")
    hand.key("Return")
    until(lambda: hand.has("it is no colour"), "a wrong word says why")
    hand.key("Escape")
    hand.click("Choose paint colour")
    hand.type("#0b7a75")
    hand.key("Return", "Escape")
    until(lambda: hand.text(colour) == "#0b7a75", "the panel's digits are taken")

    # The wheel scrolls panels and changes nothing under the pointer.
    now = hand.save(path)
    for step in ("Step: Strokes", "Step: Edge", "Step: Shadow & light"):
        if step != "Step: Strokes":
            hand.click(step)
        for place in (0.2, 0.5, 0.8):
            left, top, wide, high = hand.box(hand.find("Steps", "panel", exact=True))
            hand.wheel((left + 170, round(top + 80 + place * (high - 120))), 6)
            hand.wheel((left + 170, round(top + 80 + place * (high - 120))), 6, up=True)
    hand.key("ctrl+e")
    hand.find("Write", "push button")
    left, top, wide, high = hand.box(hand.find("Export", exact=True))
    for place in (0.15, 0.3, 0.45, 0.6, 0.75, 0.9):
        hand.wheel((left + wide - 120, round(top + place * high)), 4)
        hand.wheel((left + wide - 120, round(top + place * high)), 4, up=True)
    hand.key("Escape")
    assert hand.has("saved", exact=True), "scrolling changed the job"
    assert hand.save_as(folder / "again.glasscap") == now

    # In a field that has the keys a run of notches is one step.
    left, top, wide, high = hand.box(hand.find("Steps", "panel", exact=True))
    hand.wheel((left + 170, top + high // 2), 30, up=True)
    hand.click("Step: Shape")
    width = hand.find("Width, px", "text")
    hand.click(width)
    hand.wheel(width, 5, up=True)
    until(lambda: hand.text(width) == "305", "five notches are five px")
    hand.click("Bench", at=(8, 8), exact=True)
    hand.key("ctrl+z")
    hand.click("Cutout Blue plate")
    until(lambda: hand.text(hand.find("Width, px", "text")) == "300", "one undo takes all notches back")
    errors = hand.close()
    assert "Traceback" not in errors, errors


play(scenario)
