"""Open formats: reading and writing what others can read and write."""
