"""Named edits of items, groups, sheets and versions."""
