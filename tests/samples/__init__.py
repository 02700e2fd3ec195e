"""Tests that are not of the whole run: what the whole run says of such is tested with them."""
