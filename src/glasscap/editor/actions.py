"""Every command once, as data: id, words, shortcut. Only app builds the toolkit's objects from it."""

from msgspec import Struct


class Action(Struct, frozen=True):
    """One command: `shortcut` in the toolkit's portable text, "" for none; `section` for menus and keys."""

    id: str
    text: str
    shortcut: str
    section: str

    @property
    def is_of_bench(self) -> bool:
        """Whether its key works only while the bench or the tray has the keys."""
        return self.id in _OF_BENCH


_OF_BENCH = frozenset(
    {"delete", "draw", "forward", "backward", "to_front", "to_back", "grip_photo", "grip_together", "grip_shape"}
)
ACTIONS: tuple[Action, ...] = (
    Action("new", "New job", "Ctrl+N", "Job"),
    Action("new_window", "New window", "Ctrl+Shift+N", "Job"),
    Action("open", "Open…", "Ctrl+O", "Job"),
    Action("save", "Save", "Ctrl+S", "Job"),
    Action("save_as", "Save as…", "Ctrl+Shift+S", "Job"),
    Action("add_photos", "Add photos…", "Ctrl+Shift+O", "Job"),
    Action("export", "Export…", "Ctrl+E", "Job"),
    Action("mockups", "Mock-ups", "Ctrl+Shift+E", "Job"),
    Action("close", "Close window", "Ctrl+W", "Job"),
    Action("quit", "Quit", "Ctrl+Q", "Job"),
    Action("undo", "Undo", "Ctrl+Z", "Edit"),
    Action("redo", "Redo", "Ctrl+Shift+Z", "Edit"),
    Action("cut", "Cut", "Ctrl+X", "Edit"),
    Action("copy", "Copy", "Ctrl+C", "Edit"),
    Action("copy_picture", "Copy as a picture", "Ctrl+Alt+C", "Edit"),
    Action("copy_sheet", "Copy the sheet as a picture", "Ctrl+Alt+Shift+C", "Edit"),
    Action("paste", "Paste", "Ctrl+V", "Edit"),
    Action("duplicate", "Duplicate", "Ctrl+D", "Edit"),
    Action("delete", "Delete", "Del", "Edit"),
    Action("select_all", "Select all", "Ctrl+A", "Edit"),
    Action("select_alike", "Select all of the same kind", "Ctrl+Alt+A", "Edit"),
    Action("find", "Find by name", "Ctrl+F", "Edit"),
    Action("find_photos", "Find missing photos…", "", "Photos"),
    Action("remove_hidden", "Remove what is hidden…", "", "Photos"),
    Action("reduce_photos", "Reduce photos to what is needed…", "", "Photos"),
    Action("embed_photos", "Embed the photos", "", "Photos"),
    Action("link_photos", "Link the photos beside the job", "", "Photos"),
    Action("collect_photos", "Collect linked photos beside the job", "", "Photos"),
    Action("another", "Another cutout of this photo", "Ctrl+Shift+D", "Cutout"),
    Action("draw", "Draw a shape", "D", "Cutout"),
    Action("rename", "Rename", "F2", "Cutout"),
    Action("hide", "Hide or show", "Ctrl+H", "Cutout"),
    Action("lock", "Lock or unlock", "Ctrl+L", "Cutout"),
    Action("mask", "Mask on or off", "Ctrl+M", "Cutout"),
    Action("take_apart", "Take apart", "Ctrl+Shift+J", "Cutout"),
    Action("join", "Join", "Ctrl+J", "Cutout"),
    Action("group", "Group", "Ctrl+U", "Cutout"),
    Action("ungroup", "Ungroup", "Ctrl+Shift+U", "Cutout"),
    Action("enter", "Open the group", "Ctrl+Return", "Cutout"),
    Action("cover", "Just cover the shape", "Ctrl+K", "Cutout"),
    Action("fit_inside", "Fit the photo inside", "Ctrl+Shift+K", "Cutout"),
    Action("series", "Make a series…", "", "Cutout"),
    Action("forward", "One place forward", "PgUp", "Cutout"),
    Action("backward", "One place back", "PgDown", "Cutout"),
    Action("to_front", "To the front", "Ctrl+PgUp", "Cutout"),
    Action("to_back", "To the back", "Ctrl+PgDown", "Cutout"),
    Action("grip_photo", "Grip the photo", "P", "Grips"),
    Action("grip_together", "Grip both together", "T", "Grips"),
    Action("grip_shape", "Grip the shape", "S", "Grips"),
    Action("zoom_in", "Zoom in", "Ctrl++", "View"),
    Action("zoom_out", "Zoom out", "Ctrl+-", "View"),
    Action("fit", "Fit the sheet", "Ctrl+0", "View"),
    Action("actual", "100 %", "Ctrl+1", "View"),
    Action("wire", "Wire view", "Ctrl+Shift+W", "View"),
    Action("snap", "Snapping", "Ctrl+Shift+G", "View"),
    Action("preferences", "Preferences…", "Ctrl+,", "Help"),
    Action("find_command", "Find a command…", "F3", "Help"),
    Action("help", "Help", "F1", "Help"),
    Action("keys", "Keys", "Ctrl+F1", "Help"),
    Action("names", "Names over the controls", "Shift+F1", "Help"),
    Action("about", "About Glass Cap", "", "Help"),
)

# Gestures and keys without a command, for the key card.
GESTURES: tuple[tuple[str, str], ...] = (
    ("Arrows, Shift + arrows", "move what the grip holds by 1 px, by 10 px"),
    ("Shift while dragging", "keep to one axis, keep proportions, turn in 15° steps"),
    ("Ctrl on a handle", "size about the centre"),
    ("Ctrl or right button while drawing", "carry the shape along"),
    ("Ctrl while moving", "do not snap; break a smooth point"),
    ("Ctrl+Z, Ctrl+Shift+Z while drawing or typing", "take the last point, stroke or letter back, have it again"),
    ("Double click", "hold the photo until Escape; open a group, a shape's points, type into letters"),
    ("Right button, menu key, a resting finger", "open the menu of what lies there"),
    ("F held while exporting", "show the whole view as the file"),
    ("Drag the ring beside a chosen point", "pull a handle out; push it into its point to have a corner"),
    ("Handle near the line of the other one", "in line: the point is smooth"),
    ("Drag on an empty place", "select what lies in the frame"),
    ("Enter while drawing", "close the shape"),
    ("Right button while drawing around an object", "stroke over what is too much"),
    ("Click a corner's ring, Ctrl + drag it", "choose that corner, round it alone"),
    ("Ctrl + wheel, pinch", "zoom about the pointer"),
    ("Wheel, middle button", "move the view"),
    ("Drag a tray card or a proof out of the window", "hand the picture to another program as a file"),
    ("Escape", "back out one level"),
)
