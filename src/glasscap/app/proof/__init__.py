"""The proofs."""
