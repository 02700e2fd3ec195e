"""Speed, measured and written down: `./run bench`. Nothing here is part of the tests."""
