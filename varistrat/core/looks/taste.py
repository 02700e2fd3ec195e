"""What is wanted of a look, and how far a face is from it. Derived in docs/physics.md#looks."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from varistrat.core.bars.points import Array
from varistrat.core.looks.features import FEATURES, KEYS
from varistrat.core.model import Model

SURE: dict[str, float] = {"exactly": 0.05, "near": 0.12, "about": 0.3}
"""How far off is still as wanted, as a share of the scale (one standard deviation)."""
POPULATION = 0.22
"""Usual spread of what can be forged on a scale, before enough of it was seen to say."""
SHRUNK = 0.5
"""How much of the correlations between features is believed."""
REPEATS_FROM = 25.0
"""% from which a face's repeat has a length worth speaking of."""
DISLIKED, NEARBY = 6.0, 0.5
ENOUGH, LEAST = 32, 0.05
"""Faces that must have been seen before their spread is believed, and the least of it."""


class Want(Model):
    """A feature, where on its own scale (its unit), and how sure one is of that."""

    feature: Annotated[str, Field(max_length=20)]
    value: Annotated[float, Field(ge=-1000, le=1000)]
    sure: Literal["exactly", "near", "about"] = "near"


def spread_of(population: Array) -> Array:
    """How far what can be forged spreads on each scale; the usual until enough was seen."""
    if len(population) < ENOUGH:
        return np.full(len(KEYS), POPULATION)
    out: Array = np.maximum(np.nanstd(population, axis=0), LEAST)
    return out


@dataclass
class Taste:
    """Where on the scales (share) the look is wanted and how far off is still right, per feature; nan: it does not matter. bad: places that
    were disliked."""

    at: Array
    give: Array
    bad: list[Array] = field(default_factory=list)

    @property
    def wanted(self) -> Array:
        """Which features matter."""
        out: Array = np.isfinite(self.at)
        return out


def on_scales(features: Sequence[float]) -> Array:
    """Shares of their scales, held within a little beyond their ends: past them the eye sees no more."""
    return np.clip([f.on_scale(v) for f, v in zip(FEATURES.values(), features, strict=True)], -0.15, 1.15)


def taste_of(wants: Sequence[Want], liked: Sequence[Array], disliked: Sequence[Array], spread: Array) -> Taste:
    """What is said and what was liked, weighed by how sure each is.

    A slider is a measurement of the taste with the width of SURE; each liked face one with the width in which liked faces differ (with one
    only, the usual spread). Normal, independent: precisions add up.
    """
    at, precision = np.full(len(KEYS), np.nan), np.zeros(len(KEYS))
    for w in wants:
        i = KEYS.index(w.feature)
        at[i] = np.clip(FEATURES[w.feature].on_scale(w.value), -0.15, 1.15)
        precision[i] = 1 / SURE[w.sure] ** 2
    repeat = KEYS.index("repeat")
    if np.isfinite(at[repeat]) and FEATURES["repeat"].from_scale(float(at[repeat])) < REPEATS_FROM:
        # what hardly comes again has no length to come again after
        at[KEYS.index("pitch")], precision[KEYS.index("pitch")] = np.nan, 0.0
    if liked:
        rows = np.array(liked)
        mean = rows.mean(axis=0)
        wide = (spread**2 + ((rows - mean) ** 2).sum(axis=0)) / len(rows)
        more = np.where(np.isfinite(mean), len(rows) / wide, 0.0)
        total = precision + more
        at = np.where(more > 0, (np.nan_to_num(at) * precision + np.nan_to_num(mean) * more) / np.maximum(total, 1e-12), at)
        precision = total
    with np.errstate(divide="ignore"):
        give = np.where(precision > 0, 1 / np.sqrt(precision), np.inf)
    return Taste(at, give, list(disliked))


def away(taste: Taste, places: Array, population: Array) -> Array:
    """How far each of the places (n, features) is from what is wanted: Mahalanobis' distance, squared, in what the population spreads
    and correlates and the taste gives; more for what lies near a face that was disliked."""
    i = np.nonzero(taste.wanted)[0]
    spread, related = spread_of(population), np.eye(len(i))
    if len(population) >= ENOUGH and len(i) > 1:
        found = np.nan_to_num(np.corrcoef(np.nan_to_num(population[:, i]).T))
        related = SHRUNK * found + (1 - SHRUNK) * np.eye(len(i))
        np.fill_diagonal(related, 1.0)
    # a slider that must be exact counts in its own width; what may be anything within reach counts little
    width = np.minimum(taste.give[i], spread[i] * 4)
    inverse = np.linalg.inv(related * np.outer(width, width))
    d = np.nan_to_num(places[:, i] - taste.at[i])
    out: Array = np.einsum("nj,jk,nk->n", d, inverse, d)
    for bad in taste.bad:
        near = np.nanmean(((places - bad) / spread) ** 2, axis=1)
        out = out + DISLIKED * np.exp(-near / (2 * NEARBY**2))
    return out


def off_by(taste: Taste, place: Array) -> float:
    """Mean of how far off the features that matter are, as a share of their scales."""
    return float(np.nanmean(np.abs(np.clip(place, 0, 1) - np.clip(taste.at, 0, 1))[taste.wanted]))


def wants_of(features: Mapping[str, float], sure: Literal["exactly", "near", "about"] = "near", shape_only: bool = False) -> list[Want]:
    """A face as what is wanted: of a design, or (shape only) of a photo, whose tones are those of its light."""
    return [
        Want(feature=k, value=round(float(v), 3), sure=sure)
        for k, v in features.items()
        if np.isfinite(v) and not (shape_only and not FEATURES[k].shape)
    ]
