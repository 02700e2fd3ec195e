"""What can hurt the smith, each in one sentence that is told alike wherever it is told."""

CARBON_MONOXIDE = "Fire in a closed room kills by carbon monoxide: open to the air, and an alarm that works."
