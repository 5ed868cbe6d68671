"""Open formats in and out."""
