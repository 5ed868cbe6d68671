"""What reads a real instrument, or the bench in its place: only at addresses that were allowed, within a time limit."""
