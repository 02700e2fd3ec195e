"""Kiln programs, the controller that runs them, and the kiln, thermocouple, tester and file that stand in for real ones."""
