"""A recorder's files: read within bounds, mapped, brought to one grid, read as amperes and volts against time."""
