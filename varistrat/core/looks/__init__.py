"""From a wanted look back to recipes: looks as numbers, the space of what can be forged, the search in it."""
