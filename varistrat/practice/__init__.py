"""Exercises that were begun, and how they came out: each user's own."""
