"""The blade and the bar it is cut from, together: where its layers and its edge lie."""
