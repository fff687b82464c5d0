"""The start view, shown while there is no job."""
