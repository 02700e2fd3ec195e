"""Builds: a design carried out. Orders, the frozen plan and its changes, and the entries, which only ever come to be more."""
