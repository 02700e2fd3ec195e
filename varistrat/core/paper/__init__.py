"""On paper: the shop sheet, the blade to its own size, a label. PDF, set by typst with fonts of our own; no browser."""
