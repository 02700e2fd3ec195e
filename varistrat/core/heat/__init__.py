"""What the fire does: transformation, hardness, tempering, carbon, scale, soak. Derived in docs/physics.md#heat."""
