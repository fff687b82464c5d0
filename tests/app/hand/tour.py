"""The README's tour, steps 1 to 10, as a newcomer plays it."""

from driver import Hand, items_of, job_of, play, until


def scenario(folder):
    hand = Hand("--demo")
    path, out = folder / "tour.glasscap", folder / "out"
    out.mkdir()
    hand.find("Bench", exact=True)

    def place(job, name="Blue plate"):
        return items_of(job)[name]

    # 1 to 3: the plate, its photo, its shape.
    hand.click("Cutout Blue plate")
    begun = place(hand.save_as(path))
    plate = hand.on_sheet(begun)
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
    hand.write_into(out)
    hand.key("Escape")

    assert items_of(job_of(path)), "the job file is whole"
    errors = hand.close()
    assert "Traceback" not in errors, errors


play(scenario)
