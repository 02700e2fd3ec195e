"""The bar or blade as a GLB file: a solid in metres with its etched pattern on every face."""

from collections.abc import Callable
from concurrent.futures import Executor
from io import BytesIO

import numpy as np
from numpy.typing import NDArray
from PIL import Image

from varistrat.core.bars.points import Array
from varistrat.core.cutting.cut import Cut
from varistrat.core.pattern.cuts import BladeSectionView, Plane, SectionView, SkinView
from varistrat.core.pattern.picture import Quality, Subject, draw
from varistrat.core.pattern.views import BladeView, Patch, View

TEXTURE = Quality(samples=1, relief=False, shadow=False)
METRE = 1e-3
"""glTF counts in metres."""
UP = np.array([[1.0, 0, 0], [0, 0, 1], [0, -1, 0]])
"""Our z is up, glTF's y is: (x, y, z) -> (x, z, -y), a turn."""


class _Solid:
    """Faces gathered into one scene, each with the picture that lies on it."""

    def __init__(self, subject: Subject, executor: Executor, px: int, cancelled: Callable[[], bool] | None):
        # seconds of start-up that only a solid should pay for
        import trimesh

        self.scene = trimesh.Scene()
        self._subject, self._executor, self._px, self._cancelled = subject, executor, px, cancelled

    def add(self, name: str, view: View, corners: Array, uv: Array, faces: Array) -> None:
        """corners (n, 3) mm; uv (n, 2), 0..1 from the lower left of the view; faces (m, 3), counter-clockwise from outside."""
        width, height = view.size
        px = int(np.clip(self._px * width / max(width, height), 8, 4096))
        grey = draw(self._subject, view, px, self._executor, TEXTURE, self._cancelled)
        picture = Image.fromarray(grey).convert("RGB")
        picture.format = "JPEG"  # a PNG would be ten times the size and take as much longer to write
        from trimesh import Trimesh
        from trimesh.visual import TextureVisuals
        from trimesh.visual.material import PBRMaterial

        material = PBRMaterial(name=name, baseColorTexture=picture, metallicFactor=0.25, roughnessFactor=0.55)
        mesh = Trimesh(vertices=corners @ UP.T * METRE, faces=faces, visual=TextureVisuals(uv=uv, material=material), process=False)
        self.scene.add_geometry(mesh, geom_name=name)

    def export(self) -> bytes:
        out = BytesIO()
        self.scene.export(out, file_type="glb")
        return out.getvalue()


def bar_glb(
    subject: Subject, executor: Executor, px: int = 1600, x1: float | None = None, cancelled: Callable[[], bool] | None = None
) -> bytes:
    """The bar (up to x1 mm of it): its long surface unrolled on one texture, its two ends on their own."""
    bar = subject.trace.forged.bar
    length = min(x1 or bar.length, bar.length)
    ring = bar.section.ring()
    solid = _Solid(subject, executor, px, cancelled)

    class _Stretch(SkinView):
        @property
        def size(self) -> tuple[float, float]:
            return length, super().size[1]

    skin = _Stretch(bar, ring)
    walk = np.concatenate([[0.0], np.cumsum(np.hypot(*np.diff(ring, axis=0).T))])
    corners, uv, faces = [], [], []
    for i in range(len(ring) - 1):
        # flat faces keep their own corners, or light would run round the edges
        for x, u in ((0.0, 0.0), (length, 1.0)):
            for k in (i, i + 1):
                corners.append((x, *ring[k]))
                uv.append((u, walk[k] / walk[-1]))
        n = 4 * i
        faces += [(n, n + 3, n + 2), (n, n + 1, n + 3)]
    solid.add("long faces", skin, np.array(corners), np.array(uv), np.array(faces))
    for name, x, turned in (("start", 0.0, 1), ("end", length, -1)):
        view = SectionView(bar, Plane(float(np.clip(x, 1e-3, bar.length - 1e-3))))
        at = np.column_stack([np.full(len(ring) - 1, x), ring[:-1]])
        flat = (ring[:-1] - view.origin) / view.size
        fan = np.array([(0, i, i + 1)[::turned] for i in range(1, len(at) - 1)])
        # seen from -x the fan runs the other way round
        solid.add(name, view, at, flat, fan[:, ::-1])
    return solid.export()


def blade_glb(cut: Cut, subject: Subject, executor: Executor, px: int = 1600, cancelled: Callable[[], bool] | None = None) -> bytes:
    """The blade: right and left face, spine and edge, heel and tip, each with its picture. Blade frame, +z the right face."""
    geometry = cut.placed.geometry
    solid = _Solid(subject, executor, px, cancelled)
    n, m = 96, 20
    x = np.linspace(0, geometry.length, n)
    u = np.linspace(0, 1, m)
    edge, height = geometry.curves.edge(x), geometry.height(x)
    h = u[None, :] * height[:, None]
    faces = geometry.faces(x[:, None], h)
    y = edge[:, None] + h
    low, high = geometry.curves.span()
    xs = np.broadcast_to(x[:, None], h.shape)

    def sheet(rows: int, columns: int, flip: bool) -> NDArray[np.int64]:
        i, j = np.meshgrid(np.arange(rows - 1), np.arange(columns - 1), indexing="ij")
        a, b, c, d = (v.ravel() for v in (i * columns + j, (i + 1) * columns + j, (i + 1) * columns + j + 1, i * columns + j + 1))
        tri = np.concatenate([np.column_stack([a, b, c]), np.column_stack([a, c, d])])
        return tri[:, ::-1] if flip else tri

    for side, z in (("right", faces.right), ("left", faces.left)):
        view = BladeView(cut.placed, side)  # type: ignore[arg-type]
        along = xs / geometry.length
        flat = np.stack([1 - along if side == "left" else along, (y - low) / (high - low)], axis=-1)
        corners = np.stack([xs, y, z], axis=-1)
        solid.add(f"{side} face", view, corners.reshape(-1, 3), flat.reshape(-1, 2), sheet(n, m, side == "left"))
    for name, k, flip in (("spine", -1, False), ("edge", 0, True)):
        rim = _Rim(cut, spine=k == -1)
        corners = np.stack([np.column_stack([x, y[:, k], faces.right[:, k]]), np.column_stack([x, y[:, k], faces.left[:, k]])], axis=1)
        flat = np.stack([np.column_stack([x / geometry.length, np.ones(n)]), np.column_stack([x / geometry.length, np.zeros(n)])], axis=1)
        solid.add(name, rim, corners.reshape(-1, 3), flat.reshape(-1, 2), sheet(n, 2, flip))
    for name, i, flip in (("heel", 0, True), ("tip", n - 1, False)):
        if height[i] < 1e-6:
            continue
        end = BladeSectionView(cut.placed, float(np.clip(x[i], 0.01, geometry.length - 0.01)))
        corners = np.stack([np.column_stack([xs[i], y[i], z[i]]) for z in (faces.left, faces.right)], axis=1)
        wide, tall = end.size
        flat = np.stack([corners[..., 2] / wide + 0.5, (corners[..., 1] - edge[i] + 0.02 * height[i]) / tall], axis=-1)
        solid.add(name, end, corners.reshape(-1, 3), np.clip(flat, 0, 1).reshape(-1, 2), sheet(m, 2, flip))
    return solid.export()


class _Rim(View):
    """The narrow face along spine or edge, laid out straight: x to the right, right side up."""

    def __init__(self, cut: Cut, spine: bool):
        self._cut, self._spine = cut, spine

    @property
    def size(self) -> tuple[float, float]:
        geometry = self._cut.placed.geometry
        return geometry.length, geometry.bar_thickness

    def patch(self, a: Array, b: Array) -> Patch:
        placed = self._cut.placed
        geometry = placed.geometry
        h = geometry.height(a) if self._spine else np.zeros_like(a)
        faces = geometry.faces(a, h)
        share = (b / np.float32(geometry.bar_thickness))[:, None]
        z = faces.left + share * (faces.right - faces.left)
        bx, by, bz = placed.inside_bar(np.broadcast_to(a, z.shape), np.broadcast_to(h, z.shape), z, faces)
        t = placed.bar.thickness / 2
        x, y, up = (np.array(v, np.float32) for v in (bx, by, np.clip(bz, -t, t)))
        return Patch(x, y, up, np.ones(z.shape, np.float32))
