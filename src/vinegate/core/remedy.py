"""What helps, as a sentence of what can still be done."""

from __future__ import annotations


def either(*ways: str) -> str:
    """One of these; what is empty is so already, or cannot be.

    >>> either("a choke", "a front end of more pulses", "a filter"), either("", "a larger motor", "less speed")
    ('A choke, a front end of more pulses, or a filter.', 'A larger motor, or less speed.')
    """
    *found, last = [way for way in ways if way]
    text = f"{', '.join(found)}, or {last}" if found else last
    return f"{text[:1].upper()}{text[1:]}."
