"""What may come out, and what did: tolerances, the core inferred from readings, what to grind off."""
