"""Choose the faces that stand along each scale of a look: `python -m benchmarks.scales`, after features or families change.

Of the walk through all families: the face nearest to each place of the scale whose other features are nearest to the middle of theirs.
"""

from concurrent.futures import ProcessPoolExecutor
from multiprocessing import get_context
from pathlib import Path

import numpy as np

from varistrat.core.looks import scales
from varistrat.core.looks.features import FEATURES, KEYS
from varistrat.core.looks.search import Ask, Pair, Search
from varistrat.core.looks.taste import Want

OUT = Path(scales.__file__).with_suffix(".toml")
FACES = 2048
USUAL, QUIETER = ("1084", "15n20"), [("1084", "5160"), ("1084", "1018"), ("1084", "l6")]
"""Steels of the examples; the second ones for contrast only."""
ON_IT = 30.0
"""How much more it counts to be at one's place than to be like the rest."""

MUDDLED = 3.0
"""And how much it counts against one of more than two tones, in which bright and dark are no two things."""


def main() -> None:
    search = Search(
        Ask(wants=[Want(feature="width", value=2.0)], faces=FACES, pairings=[Pair(dark=d, bright=b) for d, b in (USUAL, *QUIETER)])
    )
    with ProcessPoolExecutor(2, mp_context=get_context("spawn")) as pool:
        search.walk(pool)
    keys = list(search.places)
    rows = np.nan_to_num(np.array([search.places[k] for k in keys]))
    middle, spread = np.median(rows, axis=0), np.maximum(rows.std(axis=0), 0.05)
    muddled = np.array([search.candidates[k].family == "canister" for k in keys])
    lines = ["# Faces along the scale of each feature, from one end to the other; made by `python -m benchmarks.scales`."]
    for i, key in enumerate(KEYS):
        others = [j for j in range(len(KEYS)) if j != i]
        away = np.sqrt((((rows - middle) / spread)[:, others] ** 2).mean(axis=1))
        usual = np.array([(search.candidates[k].dark, search.candidates[k].bright) == USUAL for k in keys])
        other = 0.0 if key == "contrast" else 1e3
        for at in scales.PLACES:
            best = int(np.argmin(ON_IT * np.abs(rows[:, i] - at) + away + other * ~usual + MUDDLED * muddled))
            c = search.candidates[keys[best]]
            values = ", ".join(f"{k} = {v:g}" for k, v in c.of_family.all(c.values).items())
            lines += ["", f"[[{key}]]", f"at = {at:g}", f'family = "{c.family}"', f"values = {{ {values} }}"]
            if (c.dark, c.bright) != USUAL:
                lines += [f'dark = "{c.dark}"', f'bright = "{c.bright}"']
            print(FEATURES[key].title, at, round(float(rows[best, i]), 3), c.key)
    OUT.write_text("\n".join(lines) + "\n")


if __name__ == "__main__":
    main()
