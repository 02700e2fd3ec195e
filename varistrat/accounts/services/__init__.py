"""Changes to what a user prefers, and to the shop's own."""
