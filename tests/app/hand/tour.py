"""The README's tour, step by step, as a newcomer plays it."""

from driver import Hand, items_of, job_of, play, until


def scenario(folder):
    hand = Hand("--demo")
    path, out = folder / "tour.glasscap", folder / "out"
    out.mkdir()
    bench = hand.find("Bench", exact=True)

    def place(job, name="Blue plate"):
        return items_of(job)[name]

    # 1 to 3: the plate, its photo, its shape.
    hand.click("Cutout Blue plate")
    begun = place(hand.save_as(path))
    plate = on_screen(begun, hand.box(bench))
    hand.click("Grip: Photo")
    hand.drag(plate, (plate[0] + 160, plate[1]))
    until(lambda: hand.has("% bare"), "the bar tells how much is bare")
    moved = place(hand.save(path))
    assert moved["shape_placement"] == begun["shape_placement"]
    assert moved["content_placement"]["x"] > begun["content_placement"]["x"]
    hand.click("Just cover", "push button", exact=True)
    until(lambda: hand.has("Photo covers the shape"), "one click covers the shape")
    hand.click("Grip: Shape")
    hand.drag(plate, (plate[0] + 20, plate[1] + 10))
    shaped = place(hand.save(path))
    assert shaped["shape_placement"]["x"] > begun["shape_placement"]["x"]
    hand.key("t", "Right", "shift+Down", "ctrl+z", "ctrl+z", "ctrl+z", "ctrl+z", "ctrl+z")
    until(lambda: place(hand.save_as(folder / "begun.glasscap")) == begun, "five steps are taken back")

    # 4: a sum typed into the width.
    width = hand.find("Width, px", "text")
    hand.click(width)
    hand.type("840/5")
    hand.key("Return")
    until(lambda: hand.text(width) == "168", "the circle is 168 px wide")
    typed = place(hand.save_as(folder / "typed.glasscap"))
    assert (typed["shape_placement"]["width"], typed["shape_placement"]["height"]) == (168, 168)
    hand.key("ctrl+z")
    until(lambda: hand.text(width) != "168", "Ctrl+Z brings the large plate back")

    # 5: the library.
    hand.click("Library", exact=True)
    hand.find("Find a shape", "text")
    hand.type("love")
    hand.key("Down", "Return", "Escape")
    assert place(hand.save_as(folder / "heart.glasscap"))["shape"]["name"] == "heart"
    hand.key("ctrl+z")
    assert place(hand.save_as(folder / "circle.glasscap"))["shape"]["name"] == "circle"

    # 6 to 8: strokes, undo, a proof.
    hand.click("Step: Strokes")
    stroke = hand.find("Width, px", "text")
    hand.click(stroke)
    hand.type("30")
    hand.key("Return")
    until(lambda: place(hand.save(folder / "circle.glasscap"))["finishes"]["strokes"][0]["width"] == 30, "30 px")
    hand.key("ctrl+z", "ctrl+shift+z")
    hand.click("Proof on Ink")
    hand.click("Proof on Ink")

    # 9 and 10: saved, exported, written.
    hand.key("ctrl+s")
    until(lambda: hand.has("saved", exact=True), "the top bar says saved")
    hand.click("Export…", "push button")
    hand.click("Change…", "push button", exact=True)
    field = hand.find("Directory", "text")
    until(lambda: hand.has_focus(field), "the dialog has the keys")
    hand.key("ctrl+a")
    hand.type(str(out))
    hand.key("Return")
    hand.rest(0.6)
    hand.click("Write", "push button")
    until(lambda: list(out.iterdir()) and hand.has("written and read back"), "the files are written", 90)
    hand.key("Escape")

    # 11 and 12: the card's back, a group opened by a double click.
    hand.click("Sheet Card back")
    until(lambda: hand.has("Group Shelf"), "groups are in the tray")
    hand.click("Cutout OPEN")
    until(lambda: hand.has("OPEN in Window"), "a word deep in a group is selected")
    hand.key("Escape")

    # 14: versions.
    hand.click("Sheet Card front")
    hand.click("Cutout Blue plate")
    hand.click("Version Plain")
    until(lambda: hand.is_on(hand.find("Version Plain")), "the plain version shows")
    hand.click("Version Bordered")
    assert items_of(job_of(path)), "the job file is whole"
    errors = hand.close()
    assert "Traceback" not in errors, errors


def on_screen(item, bench):
    """Return where an item's middle is on the screen while its sheet, 1800 x 1200 px, is fitted to the bench."""
    left, top, wide, high = bench
    high -= 92
    scale = 0.88 * min(wide / 1800, high / 1200)
    middle = item["shape_placement"]
    return (
        round(left + wide / 2 + (middle["x"] - 900) * scale),
        round(top + high / 2 + (middle["y"] - 600) * scale),
    )


play(scenario)
