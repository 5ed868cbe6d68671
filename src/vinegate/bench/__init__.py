"""A bench of simulated instruments at a demo circuit. What it reads is marked, and is no measurement."""
