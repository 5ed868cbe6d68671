"""A motor run from a drive: what it can do at every speed, which drive it takes, and what to set on it."""
