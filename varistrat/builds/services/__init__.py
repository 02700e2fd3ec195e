"""Changing builds: beginning them, writing down what happens, changing the plan on the way."""
