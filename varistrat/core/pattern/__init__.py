"""Looking at steel: views of a bar or blade, sampling of the pattern, pictures of it."""
