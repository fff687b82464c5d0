"""The state of one editing session, without a toolkit."""
