"""From the belt to the blade handed over: paper, bath, depth and look, mark, edge, fit-up, grade."""
