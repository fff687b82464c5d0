"""What is drawn, typed and saved stays what it is, by hand."""

from driver import Hand, items_of, job_of, play, until


def scenario(folder):
    hand = Hand("--demo")
    one, other = folder / "one.glasscap", folder / "other.glasscap"
    hand.click("Cutout Blue plate")
    hand.save_as(other)
    hand.key("Right")
    hand.save_as(one)
    hand.key("Right")
    # Saved and another job opened at once: each file keeps its own job.
    hand.key("ctrl+s", "ctrl+o")
    hand.choose_file(other)
    until(lambda: hand.has("other", "label", exact=True), "the other job is shown under its own name")
    moved = items_of(job_of(one))["Blue plate"]["shape_placement"]["x"]
    before = items_of(job_of(other))["Blue plate"]["shape_placement"]["x"]
    assert moved == before + 2, (moved, before)
    hand.click("Cutout Blue plate")
    hand.key("Down")
    hand.save(other)
    assert items_of(job_of(one))["Blue plate"]["shape_placement"]["x"] == moved

    # Ctrl+Z while drawing takes back the last point; the job behind stays.
    left, top, wide, high = hand.box(hand.find("Bench", exact=True))
    at = lambda x, y: (round(left + x * wide), round(top + y * high))  # noqa: E731
    hand.click("Draw", "push button", exact=True)
    hand.choose(2)
    for place in ((0.3, 0.3), (0.6, 0.3), (0.6, 0.6)):
        hand.click("Bench", at=(round(place[0] * wide), round(place[1] * high)), exact=True)
    hand.key("ctrl+z", "ctrl+z", "ctrl+z", "ctrl+z")
    until(lambda: hand.has("Nothing is left to take back"), "it says that nothing is left of the drawing")
    assert hand.has("saved", exact=True), "undo went behind the drawing"
    hand.key("ctrl+shift+z", "ctrl+shift+z", "ctrl+shift+z", "Return")
    until(lambda: hand.has("Undo: Draw the shape"), "the drawing is one step")
    hand.key("ctrl+z")
    until(lambda: hand.has("saved", exact=True), "one undo takes the drawing back")

    # Typing: one letter at a time back, one step in the end.
    hand.click("Cutout KILN TRAIL")
    hand.click("Letters", "check box", exact=True)
    hand.type("POTS")
    hand.rest(1.2)
    hand.key("ctrl+z")
    box = hand.find("Letters", "text", exact=True)
    until(lambda: hand.text(box) == "POT", "Ctrl+Z takes back a letter")
    hand.key("ctrl+shift+z", "Escape")
    until(lambda: hand.has("Undo: Type letters"), "typing is one step")
    hand.key("ctrl+z")
    until(lambda: hand.text(hand.find("Letters", "text", exact=True)) != "POTS", "one undo takes the word back")

    # What another program wrote is not written over unasked.
    theirs = one.read_bytes()
    other.write_bytes(theirs)
    hand.key("Right", "ctrl+s")
    until(lambda: hand.has("Another program changed"), "Save asks")
    hand.key("Escape")
    until(lambda: not hand.has("Another program changed"), "the question is gone")
    assert other.read_bytes() == theirs, "it was written over"
    hand.key("ctrl+s")
    hand.click("Save", "push button", exact=True)
    until(lambda: other.read_bytes() != theirs and hand.has("saved", exact=True), "now it is written")

    # Quitting asks; Escape stays.
    hand.key("Right", "ctrl+q")
    until(lambda: hand.has("changes that are not saved"), "quitting asks")
    hand.key("Escape")
    until(lambda: hand.has_focus(hand.find("Bench", exact=True)), "the window stays")

    # Undo in a drag drops the drag.
    plate = hand.find("Cutout Blue plate")
    hand.click(plate)
    assert at(0, 0) == (left, top)
    errors = hand.close()
    assert "Traceback" not in errors, errors


play(scenario)
