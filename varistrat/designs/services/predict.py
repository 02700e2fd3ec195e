"""Working a document out and taking pictures of it; the latest ones are kept at hand."""

import hashlib
import json
import logging
import threading
import time
from collections import OrderedDict
from collections.abc import Callable
from concurrent.futures import Executor, ThreadPoolExecutor
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Literal

from django.conf import settings
from django.core.cache import caches

from varistrat.core.bars.forged import Forged
from varistrat.core.bars.trace import Trace, pool
from varistrat.core.blade.geometry import Side
from varistrat.core.design.document import Document, read_document
from varistrat.core.design.worked import Worked
from varistrat.core.errors import Cancelled, InputError
from varistrat.core.finish.film import StageOfFilm, subject_at
from varistrat.core.heat.fires.fired_tones import FiredTones
from varistrat.core.limits import MAX_DRAW_SECONDS, MAX_SCREEN_PIXELS
from varistrat.core.pattern.cuts import BladeSectionView, FaceName, Plane, SectionView, WindowView
from varistrat.core.pattern.picture import FULL, PORTRAIT, PREVIEW, SCREEN, Quality, Subject, draw
from varistrat.core.pattern.png import png
from varistrat.core.pattern.solid import SolidView
from varistrat.core.pattern.views import BladeView, BladeWindow, EndView, FaceView, RimView, SideView, View
from varistrat.core.shop import ShopData

log = logging.getLogger(__name__)
QUALITIES: dict[str, Quality] = {"preview": PREVIEW, "screen": SCREEN, "full": FULL, "portrait": PORTRAIT}
SQUARE_BELOW = 1.8
"""A bar without a blade, less wide than this many times its height, is shown by its end grain."""
LOOK = 2
"""Counts up when pictures come to look different, so that no old one is shown."""
QualityName = Literal["preview", "screen", "full", "portrait"]


@lru_cache(maxsize=1)
def executor() -> Executor:
    """One pool of drawing threads for the whole process."""
    return pool()


@lru_cache(maxsize=1)
def study_executor() -> Executor:
    """Its own thread for studies: their many pieces would stand before everybody's pictures."""
    return ThreadPoolExecutor(1, thread_name_prefix="study")


class _Recent:
    """The last documents worked out, by content and by what is the shop's own; shared between threads, bounded in bytes (roughly
    reckoned)."""

    def __init__(self, most: int):
        self._most = most
        self._bytes = 0
        self._kept: OrderedDict[bytes, tuple[Worked, int]] = OrderedDict()
        self._making: dict[bytes, threading.Lock] = {}
        self._lock = threading.Lock()
        self.asked = self.made = 0
        """How often, since the process began; in between: found."""

    def get(self, document: Document) -> Worked:
        said = json.dumps(document.as_json(), sort_keys=True)
        key = hashlib.sha256(f"{document.shop.mark}|{said}".encode()).digest()
        cost = BYTES_EACH + TIMES_TEXT * len(said)
        with self._lock:
            self.asked += 1
            if key in self._kept:
                self._kept.move_to_end(key)
                return self._kept[key][0]
            making = self._making.setdefault(key, threading.Lock())
        # of many who ask for the same at once one works, the others wait for it
        with making:
            with self._lock:
                if key in self._kept:
                    return self._kept[key][0]
            try:
                worked = Worked.of(document)
                self._keep(key, worked, cost)
            finally:
                with self._lock:
                    self._making.pop(key, None)
        return worked

    def _keep(self, key: bytes, worked: Worked, cost: int) -> None:
        with self._lock:
            self.made += 1
            self._kept[key] = (worked, cost)
            self._bytes += cost
            while self._bytes > self._most and len(self._kept) > 1:
                _, (_, freed) = self._kept.popitem(last=False)
                self._bytes -= freed

    def clear(self) -> None:
        with self._lock:
            self._kept.clear()
            self._bytes = 0


BYTES_EACH, TIMES_TEXT = 400_000, 18
"""What a document worked out holds: some tables, and so many times its text; measured."""
MOST_BYTES = 200_000_000
"""Of all serving processes together."""
_recent = _Recent(MOST_BYTES // settings.SERVERS)


def work_done() -> tuple[int, int]:
    """(how often a document worked out was asked for, how often it had to be made) since the process began."""
    return _recent.asked, _recent.made


def work_out(document: Document) -> Worked:
    return _recent.get(document)


@dataclass(frozen=True)
class BladePicture:
    """One face of the blade, or (view section) the blade cut across at x, or its spine or edge; margin mm all round; `book`, `ground`:
    see BladeView."""

    side: Side
    px: int
    view: Literal["face", "section", "spine", "edge"] = "face"
    ground: float = 0.0
    window: BladeWindow | None = None
    x: float = 0.0
    turn: float = 0.0
    margin: float = 4.0
    book: bool = True
    quality: QualityName = "screen"


@dataclass(frozen=True)
class Window:
    """See WindowView."""

    face: FaceName
    x: float
    across: float
    length: float
    width: float
    depth: float
    slope: float


@dataclass(frozen=True)
class BarPicture:
    """One bar (`bar`: its id, empty for the whole) after `stages` steps: its face ground to z, its side, or its end grain at x."""

    stages: int | None
    view: Literal["face", "side", "end", "section", "window", "solid"]
    px: int
    z: float = 0.0
    x: float = 0.0
    x0: float = 0.0
    x1: float | None = None
    quality: QualityName = "screen"
    bar: str = ""
    plane: Plane | None = None
    window: Window | None = None
    yaw: float = 35.0
    pitch: float = 30.0


def blade_png(worked: Worked, asked: BladePicture, tones: FiredTones | None = None, cancelled: Callable[[], bool] | None = None) -> bytes:
    """Raises InputError when there is no blade to show, Cancelled when no longer wanted."""
    placed = worked.blade.placed
    view: View = BladeView(placed, asked.side, asked.margin, asked.book, asked.ground, asked.window)
    if asked.view == "section":
        view = BladeSectionView(placed, asked.x, asked.turn)
    elif asked.view in ("spine", "edge"):
        view = RimView(placed, asked.view, asked.margin)
    return _png(worked.blade.subject(tones), view, asked.px, QUALITIES[asked.quality], cancelled)


def stage_png(worked: Worked, asked: BladePicture, stage: StageOfFilm, cancelled: Callable[[], bool] | None = None) -> bytes:
    """One face at a stage of the etch. Raises InputError when there is no blade to show, Cancelled when no longer wanted."""
    view = BladeView(worked.blade.placed, asked.side, asked.margin, asked.book)
    return _png(subject_at(worked, stage), view, asked.px, QUALITIES[asked.quality], cancelled)


def blade_section_size(worked: Worked, x: float, turn: float) -> tuple[float, float, float]:
    """(width, height, height of its middle above the blade's y = 0) of the picture of a section, mm. Raises InputError without a blade."""
    if worked.cut is None:
        raise InputError.at("blade", "there is no blade in this design", "add one")
    view = BladeSectionView(worked.cut.placed, x, turn)
    return *view.size, view.middle


def bar_png(worked: Worked, asked: BarPicture, tones: FiredTones | None = None, cancelled: Callable[[], bool] | None = None) -> bytes:
    """Raises InputError when the bar never gets there or the place is outside it."""
    forged = bar_after(worked, asked.bar, asked.stages)
    bar = forged.bar
    end = min(asked.x1 or bar.length, bar.length)
    view: View
    if asked.view == "face":
        view = FaceView(bar, _within(asked.z, -bar.thickness / 2, bar.thickness / 2), min(asked.x0, end * 0.99), end)
    elif asked.view == "side":
        view = SideView(bar, end)
    elif asked.view == "section" and asked.plane:
        view = SectionView(bar, replace(asked.plane, x=_within(asked.plane.x, 0, bar.length)))
    elif asked.view == "window" and asked.window:
        w = asked.window
        view = WindowView(bar, w.face, w.x, w.across, w.length, w.width, w.depth, w.slope, min(asked.x0, end * 0.99), end)
    elif asked.view == "solid":
        view = SolidView(bar, asked.yaw, asked.pitch, asked.plane, 0.0, end)
    else:
        view = EndView(bar, _within(asked.x, 0, bar.length))
    return _png(
        Subject(Trace(forged), tones.tones, tones.skin) if tones else Subject(Trace(forged)),
        view,
        asked.px,
        QUALITIES[asked.quality],
        cancelled,
    )


def bar_after(worked: Worked, bar: str, stages: int | None) -> Forged:
    """One bar after so many steps (None: all). Raises InputError when it never gets there."""
    forged = worked.bar(bar)
    if stages is None:
        return forged
    if not 0 <= stages <= len(forged.stages):
        raise InputError.at("stages", f"there is no bar after {stages} steps", f"choose 0 to {len(forged.stages)}")
    return forged.upto(stages)


def _within(value: float, low: float, high: float) -> float:
    return min(max(value, low), high)


def steps_deep(forged: Forged) -> int:
    """How many steps a point is carried back through at the most, zones counted one by one."""
    own = sum(max(1, len(getattr(s.step, "zones", None) or ())) for s in forged.stages)
    return forged.start.work() + own + max((steps_deep(c) for c in forged.children), default=0)


def blade_cost(worked: Worked, asked: BladePicture) -> float:
    """Points times steps of a picture, reckoned before it is begun; see api/gate.py."""
    if worked.cut is None:
        return 0.0
    high = 0.6 if asked.view == "section" else min(1.0, 60.0 / max(worked.cut.placed.geometry.length, 1.0))
    return asked.px**2 * high * QUALITIES[asked.quality].samples ** 2 * steps_deep(worked.forged)


def bar_cost(worked: Worked, asked: BarPicture) -> float:
    forged = worked.bars.get(worked.document.bar(asked.bar).id)
    if forged is None:
        return 0.0
    bar = forged.bar
    long = max(min(asked.x1 or bar.length, bar.length) - asked.x0, 1e-3)
    high = {"face": bar.width / long, "side": bar.thickness / long}.get(asked.view, 1.0)
    return asked.px**2 * min(high, 4.0) * QUALITIES[asked.quality].samples ** 2 * steps_deep(forged)


def _png(subject: Subject, view: View, px: int, quality: Quality, cancelled: Callable[[], bool] | None) -> bytes:
    """Bounded in size and time, so that no request holds a worker for long."""
    width, height = view.size
    if px * px * height / width > MAX_SCREEN_PIXELS:
        raise InputError.at("px", f"{px} pixels across make a picture of {px * height / width:.0f} down", "ask for a smaller one")
    deadline = time.monotonic() + MAX_DRAW_SECONDS

    def stop() -> bool:
        return time.monotonic() > deadline or (cancelled is not None and cancelled())

    try:
        return png(draw(subject, view, px, executor(), quality, stop), px / width)
    except Cancelled:
        if time.monotonic() > deadline:
            raise InputError.at("recipe", f"this takes longer than {MAX_DRAW_SECONDS:.0f} s to draw", "use fewer steps or zones") from None
        raise


def drawn_png(subject: Subject, view: View, px: int, cancelled: Callable[[], bool] | None = None) -> bytes:
    """Any view of any subject, as on a screen."""
    return _png(subject, view, px, QUALITIES["screen"], cancelled)


def picture_kept(key: str) -> bool:
    """Whether it was drawn before."""
    return hashlib.sha256(f"{LOOK}{key}".encode()).hexdigest() in caches["pictures"]


def kept_picture(key: str, document: dict[str, object], shop: ShopData, px: int, cancelled: Callable[[], bool] | None = None) -> bytes:
    """The bench's picture, from the store of pictures if it was drawn before; `key` names content and size."""
    store = caches["pictures"]
    name = hashlib.sha256(f"{LOOK}{key}".encode()).hexdigest()
    found: bytes | None = store.get(name)
    if found is None:
        found = document_picture(document, shop, px, cancelled)
        try:
            store.set(name, found)
        except OSError as e:
            # a picture is drawn though it cannot be kept: the disk is full, or read-only
            log.warning("a picture could not be kept: %s", e)
    return found


def document_picture(document: dict[str, object], shop: ShopData, px: int, cancelled: Callable[[], bool] | None = None) -> bytes:
    """The bench's picture of a kept design: its right face, or the bar's face when there is no blade."""
    worked = work_out(read_document(document, shop))
    if worked.cut:
        return blade_png(
            worked, BladePicture("right", px, margin=0.02 * worked.cut.placed.geometry.length, quality="screen"), None, cancelled
        )
    bar = worked.forged.bar
    if bar.width < SQUARE_BELOW * bar.thickness:
        # a bar kept for its end grain
        return bar_png(worked, BarPicture(None, "end", px // 3, x=bar.length / 2), None, cancelled)
    return bar_png(worked, BarPicture(len(worked.forged.stages), "face", px, z=bar.thickness * 0.3, x1=6 * bar.width), None, cancelled)
