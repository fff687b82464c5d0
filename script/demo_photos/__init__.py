"""Made-up photographs, computed."""
