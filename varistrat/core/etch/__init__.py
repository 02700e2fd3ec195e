"""Etching: how bright and how deep each steel comes out, and how that looks to the eye."""
