"""The job as an immutable value, and the named edits on it."""
