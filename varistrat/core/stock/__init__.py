"""Backwards from the blade: what every bar and pile must be, and what of them is lost on the way."""
