"""The route of a design: every operation of the whole job in order, and what it takes in time and money."""
