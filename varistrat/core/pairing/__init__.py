"""Which steels go together in one bar, and why."""
