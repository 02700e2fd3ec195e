"""What a shop measures with: one interface, simulated ones that ship, and the line of text a real one sends."""
