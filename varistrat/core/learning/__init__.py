"""The shop's own numbers, learned from what was planned and what was measured."""
