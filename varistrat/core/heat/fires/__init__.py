"""Every heat of a recipe: how many, how hot, how long, and what they do to carbon, skin and scale."""
