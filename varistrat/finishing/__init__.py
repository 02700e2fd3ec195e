"""Finishing: the shop's baths."""
