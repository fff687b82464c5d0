"""The job as frozen values, and questions about it."""
