"""The laws of the metal, apart from any one steel, bar or shop: from composition, heat and time to phases, hardness and diffusion."""
