"""Work that outlasts a request: ordered, watched, stopped and fetched alike, whatever it is."""
