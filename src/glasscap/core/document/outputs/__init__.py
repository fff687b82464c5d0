"""Edits of what goes out and how it is judged: export rows, series, proofs, mock-ups."""
