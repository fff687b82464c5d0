"""Drives the real window as a hand does: controls are found by their accessible names, clicked by X events.

Scenarios run in the system's own Python, which has the bindings of the accessibility bus (AT-SPI); they know
nothing of the program but its command and its files. `test_by_hand.py` gives them a screen, a window manager and a
session bus.
"""

import json
import os
import socket
import subprocess
import sys
import time
import traceback
import zipfile
from pathlib import Path

import pyatspi

SECONDS = 15.0
_BUSY = (pyatspi.ROLE_APPLICATION,)


class MissingError(AssertionError):
    """What was looked for is not on the screen."""


def until(is_so, what, seconds=SECONDS):
    """Wait until something is so; its value."""
    end = time.time() + seconds
    while True:
        try:
            found = is_so()
        except (MissingError, LookupError, AttributeError):
            found = None
        if found:
            return found
        if time.time() > end:
            raise MissingError(f"never came about: {what}")
        time.sleep(0.08)


def x(*words):
    """Send events to the X server."""
    subprocess.run(["xdotool", *map(str, words)], check=True)


class Hand:
    """One running program."""

    def __init__(self, *arguments, before=""):
        """Start the program with some arguments, after other Python code of the scenario's."""
        finder = Path(__file__).with_name("finder.py")
        start = f"exec(open({str(finder)!r}).read())\n{before}\nfrom glasscap.cli.main import program\nprogram()"
        command = [os.environ["GLASSCAP_PYTHON"], "-c", start, *map(str, arguments)]
        self._found = {}
        home = os.environ["HOME"]
        self.errors, self._finder = (Path(home, f"{name}-{time.time_ns()}") for name in ("stderr", "finder"))
        environment = {**os.environ, "GLASSCAP_FINDER": str(self._finder)}
        with self.errors.open("w") as errors:
            self.process = subprocess.Popen(command, stdout=subprocess.DEVNULL, stderr=errors, env=environment)
        until(lambda: self.find("Main menu", wait=0), "a window with a main menu", 120)
        self.place()

    # looking

    @staticmethod
    def nodes(root):
        """Yield what is showing beneath a node, front to back in the order of the tree."""
        stack = [root]
        while stack:
            node = stack.pop()
            try:
                if not node.getState().contains(pyatspi.STATE_SHOWING):
                    continue
                yield node
                stack.extend(reversed([c for c in node if c is not None]))
            except Exception as error:
                if not _is_gone(error):
                    raise

    def _named(self, name, *, exact):
        """Yield what is showing and has a name (or has it as a part), found over the bus on the way told."""
        program = next((a for a in pyatspi.Registry.getDesktop(0) if _is_so(self._is_program, a)), None)
        if program is None:
            return
        for path in self._ask(name, exact=exact):
            node = program
            try:
                for index in path:
                    node = node.getChildAtIndex(index)
                if node is not None and node.getState().contains(pyatspi.STATE_SHOWING):
                    yield node
            except Exception as error:
                if not _is_gone(error):
                    raise

    def _is_program(self, node):
        return node is not None and node.get_process_id() == self.process.pid

    def _ask(self, name, *, exact):
        """Return the ways to all that has a name; none while the window does not answer."""
        with socket.socket(socket.AF_UNIX) as asking:
            asking.settimeout(SECONDS)
            try:
                asking.connect(str(self._finder))
                asking.sendall(f"{json.dumps([name, exact])}\n".encode())
                return json.loads(asking.makefile().read() or "[]")
            except OSError:
                return []

    def all(self, name, role=None, *, exact=False):
        """Yield every control with a name (or with a part of one)."""
        fits = _fitting(name, role, exact=exact)
        return (n for n in self._named(name, exact=exact) if _is_so(fits, n))

    def find(self, name, role=None, *, exact=False, wait=SECONDS, root=None):
        """Return the first control with a name; wait for it."""
        key = (name, role, exact)
        fits = _fitting(name, role, exact=exact)

        def found():
            # What was found before is mostly still there.
            known = self._found.get(key) if root is None else None
            if known is not None and _is_so(_is_showing, known) and _is_so(fits, known):
                return known
            candidates = self._named(name, exact=exact) if root is None else self.nodes(root)
            node = next((n for n in candidates if _is_so(fits, n)), None)
            if root is None and node is not None:
                self._found[key] = node
            return node

        if wait == 0:
            return found()
        return until(found, f"a control named {name!r}" + (f" ({role})" if role else ""), wait)

    def has(self, name, role=None, *, exact=False):
        """Whether there is such a control now."""
        return next(self.all(name, role, exact=exact), None) is not None

    def box(self, node):
        """Return x, y, width, height on the screen."""
        extents = node.queryComponent().getExtents(pyatspi.DESKTOP_COORDS)
        return extents.x, extents.y, extents.width, extents.height

    def centre(self, node):
        """Return the middle of a control on the screen."""
        left, top, width, height = self.box(node)
        return left + width // 2, top + height // 2

    def text(self, node):
        """Return what stands in a field."""
        inside = node.queryText()
        return inside.getText(0, inside.characterCount)

    def marked(self, node):
        """Return the part of a field's text that is selected."""
        inside = node.queryText()
        if inside.getNSelections() == 0:
            return ""
        start, end = inside.getSelection(0)
        return inside.getText(start, end)

    def has_focus(self, node):
        """Whether the keys go to a control."""
        return node.getState().contains(pyatspi.STATE_FOCUSED)

    def is_on(self, node):
        """Whether a button is down."""
        return node.getState().contains(pyatspi.STATE_CHECKED)

    def value(self, node):
        """Return where a slider stands."""
        return node.queryValue().currentValue

    def on_sheet(self, item, sheet=(1800, 1200)):
        """Return where an item's middle is on the screen, while its sheet is fitted to the bench."""
        left, top, wide, high = self.box(self.find("Bench", exact=True))
        # The bar under the bench has its room.
        high -= 92
        scale = 0.88 * min(wide / sheet[0], high / sheet[1])
        at = item["shape_placement"]
        return (
            round(left + wide / 2 + (at["x"] - sheet[0] / 2) * scale),
            round(top + high / 2 + (at["y"] - sheet[1] / 2) * scale),
        )

    # doing

    def place(self):
        """Put the window at the screen's top left, and the keys into it."""
        names = subprocess.run(["xdotool", "search", "--name", "Glass Cap"], capture_output=True, text=True)
        window = names.stdout.split()[-1]
        x("windowmove", window, 0, 18, "windowactivate", "--sync", window)
        self.rest(0.4)

    def rest(self, seconds=0.25):
        """Let the window come to rest."""
        time.sleep(seconds)

    def click(self, what, role=None, *, button=1, at=None, times=1, exact=False):
        """Click a control in its middle, or at a place in it."""
        node = self.find(what, role, exact=exact) if isinstance(what, str) else what
        place = self.centre(node) if at is None else (self.box(node)[0] + at[0], self.box(node)[1] + at[1])
        x("mousemove", *place, "sleep", 0.05, "click", "--repeat", times, "--delay", 60, button)
        self.rest()
        return node

    def click_at(self, place, *, times=1):
        """Click a place on the screen."""
        x("mousemove", *place, "sleep", 0.05, "click", "--repeat", times, "--delay", 60, 1)
        self.rest()

    def key(self, *keys):
        """Press keys, one after the other."""
        for key in keys:
            x("key", "--clearmodifiers", key)
        self.rest(0.15)

    def type(self, text):
        """Type text where the keys go."""
        x("type", "--delay", 15, text)
        self.rest(0.15)

    def drag(self, start, end, *, button=1, hold=()):
        """Drag from one place on the screen to another."""
        x("mousemove", *start)
        for key in hold:
            x("keydown", key)
        x("mousedown", button)
        for n in range(1, 11):
            x("mousemove", *(round(a + (b - a) * n / 10) for a, b in zip(start, end, strict=True)))
            time.sleep(0.02)
        x("mouseup", button)
        for key in hold:
            x("keyup", key)
        self.rest()

    def wheel(self, where, notches=3, *, up=False):
        """Turn the wheel over a control or a place."""
        place = where if isinstance(where, tuple) else self.centre(where)
        x("mousemove", *place, "sleep", 0.05, "click", "--repeat", notches, "--delay", 30, 4 if up else 5)
        self.rest()

    def choose(self, number):
        """Take an entry of the menu that is open, counted from 1."""
        self.key(*["Down"] * number, "Return")

    # the job

    def choose_file(self, path):
        """Enter a path in the file dialog that is open."""
        field = self.find("File name", "text")
        until(lambda: self.has_focus(field), "the file dialog has the keys")
        self.key("ctrl+a")
        self.type(str(path))
        self.key("Return")

    def write_into(self, folder):
        """In the export view, choose where files go, and write them."""
        self.click("Change…", "push button", exact=True)
        field = self.find("Directory", "text")
        until(lambda: self.has_focus(field), "the dialog has the keys")
        self.key("ctrl+a")
        self.type(str(folder))
        self.key("Return")
        self.rest(0.6)
        self.click("Write", "push button")
        until(lambda: list(folder.iterdir()) and self.has("written and read back"), "the files are written", 90)

    def save_as(self, path):
        """Save the job under a name; what the file says."""
        self.key("ctrl+shift+s")
        self.choose_file(path)
        until(path.is_file, f"{path.name} is written")
        until(lambda: self.has("saved", exact=True), "the top bar says saved")
        return job_of(path)

    def save(self, path):
        """Save the job to its file; what the file says."""
        before = path.stat().st_mtime_ns
        self.key("ctrl+s")
        until(lambda: path.stat().st_mtime_ns != before, f"{path.name} is written anew")
        return job_of(path)

    def close(self):
        """End the program; what it wrote to standard error."""
        self.process.terminate()
        try:
            self.process.wait(10)
        except subprocess.TimeoutExpired:
            self.process.kill()
        return self.errors.read_text()


def _is_gone(error):
    """Whether an error of the bus says that a node went away."""
    return isinstance(error, RuntimeError | LookupError | OSError | AttributeError) or type(
        error
    ).__module__.startswith("gi")


def _fitting(name, role, *, exact):
    """Return a test of nodes for a name, or a part of one, and for a role."""

    def fits(node):
        own = node.name or ""
        is_named = own == name if exact else name.lower() in own.lower()
        return is_named and (role is None or role in node.getRoleName())

    return fits


def _is_showing(node):
    """Whether a node is on the screen, and all that holds it."""
    while node is not None and node.getRole() not in _BUSY:
        if not node.getState().contains(pyatspi.STATE_SHOWING):
            return False
        node = node.parent
    return node is not None


def _is_so(fits, node):
    try:
        return fits(node)
    except Exception:  # noqa: BLE001 - a node that went away fits nothing
        return False


def job_of(path):
    """Return what a job file says."""
    with zipfile.ZipFile(path) as archive:
        return json.loads(archive.read("job.json"))["job"]


def items_of(job):
    """Return every item of a job's sheets by name, groups' included."""
    found = {}

    def walk(items):
        for item in items:
            found[item["name"]] = item
            walk(item.get("content", {}).get("items", []) if isinstance(item.get("content"), dict) else [])

    for sheet in job["sheets"]:
        walk(sheet["items"])
    return found


def shoot(path):
    """Write a picture of the screen."""
    call = f"from PIL import ImageGrab; ImageGrab.grab(xdisplay='').save({str(path)!r})"
    subprocess.run([os.environ["GLASSCAP_PYTHON"], "-c", call], check=False, capture_output=True)


def play(scenario):
    """Run a scenario with the folder it may write to; say what failed, with a picture of the screen."""
    folder = Path(sys.argv[1])
    try:
        scenario(folder)
    except Exception as error:
        shoot(folder / "failed.png")
        windows = [w for program in pyatspi.Registry.getDesktop(0) if program for w in program if w]
        names = dict.fromkeys(node.name for window in windows for node in Hand.nodes(window) if node.name)
        (folder / "names.txt").write_text("\n".join(names))
        traceback.print_exc()
        raise SystemExit(f"{type(error).__name__}: {error}") from error
    print("done")
