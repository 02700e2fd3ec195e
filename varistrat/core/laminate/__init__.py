"""Laminated blades: where the core shows."""
