"""Facts in, plan out. See README.md in this folder."""
