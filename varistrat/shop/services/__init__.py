"""Changes to a shop: who works in it, what is its own."""
