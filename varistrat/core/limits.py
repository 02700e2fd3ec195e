"""Every limit on what comes in, in one place.

A limit is there so that a slip of the pen (or a hostile file) gets a clear
refusal instead of a hung worker; each is far above what a forge can do.
"""

MAX_FILE_BYTES = 2_000_000
MAX_NESTING = 60
"""Depth of the JSON tree, not of the billet: one bar inside another takes about four."""
MAX_LAYERS = 2_000
MAX_STEPS = 200
MAX_PIECES = 400
MAX_GRID = 20
"""Cells of a grid along either side."""
MAX_ZONES = 200
MAX_BARS = 64
"""Bars in one assembly."""
MAX_ALL_BARS = 400
"""Bars in a whole recipe, however deep."""
MAX_ALL_STEPS = 2_000
"""Steps of all its bars together."""
MAX_INSERTS = 60
"""Kinds of insert in one canister."""
MAX_INSERT_PIECES = 600
"""Of one kind."""
MAX_CAN_PIECES = 2_000
"""Of all kinds in one canister."""
MAX_CUTOUT_POINTS = 400
"""Corners of one outline."""
MAX_CAN_CORNERS = 20_000
"""Of all outlines in one canister."""
MAX_SHEET_CELLS = 96
"""Pictures on one what-if sheet."""
MAX_SEGMENTS = 40
"""Of a kiln program."""
MAX_SHOP_STEELS = 200
"""Steels of its own a shop may keep."""
MAX_PHOTO_BYTES = 25_000_000
MAX_PHOTO_PIXELS = 60_000_000
MAX_DRAWING_BYTES = 1_000_000
MAX_OUTLINES = 60
"""Outlines read from one drawing."""
MAX_MM = 20_000.0
MIN_MM = 0.001
"""Nothing in a forge is thinner than a micron."""
MAX_TURNS = 2_000.0
MAX_OUTLINE_POINTS = 5_000
MAX_PROBE_POINTS = 5_000_000
MAX_PICTURE_PX = 12_000
MAX_SCREEN_PIXELS = 8_000_000
MAX_DRAW_SECONDS = 20.0
"""A picture asked for by the browser; larger ones are print jobs, which can be watched and stopped."""
MAX_STATIONS = 5_000
MAX_TEXT = 4_000
