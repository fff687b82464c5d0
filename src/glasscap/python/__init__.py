"""What people type in Python: pictures cut in one call, and jobs opened, changed and written."""
