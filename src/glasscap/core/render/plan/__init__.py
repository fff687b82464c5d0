"""Plans: parts in output px, and how far each reaches."""
