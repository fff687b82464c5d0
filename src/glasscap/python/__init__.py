"""The Python interface: pictures cut in one call, and jobs opened, changed and written."""
