"""What the `varistrat` command does, a module for each kind: fetched when it is asked for, so that a short question has a short start."""
