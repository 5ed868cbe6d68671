"""Vine Gate: plans a motor's supply circuit from its plate and its supply."""

__version__ = "0.8.0"
