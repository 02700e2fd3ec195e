"""Bars: what they start as, what is done to them, and how a point is carried back."""
