"""Pull-back and core lines. The pull-back: ours against whole-array float64 NumPy and against a hand-vectorised C loop."""

import ctypes
import os
import resource
import shutil
import subprocess
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

import numpy as np

from benchmarks.quiet import best, timed, tries
from benchmarks.recipes import FOUR, TWELVE, many
from varistrat.core import laminates
from varistrat.core.bars.forged import Forged, forge
from varistrat.core.bars.points import Points
from varistrat.core.bars.recipe import read_recipe
from varistrat.core.bars.trace import BLOCK, Trace, pool
from varistrat.core.blade.model import read_blade
from varistrat.core.cutting.cut import Cut
from varistrat.core.design.document import read_document
from varistrat.core.design.worked import Worked
from varistrat.core.laminate.aim import Aim, Band
from varistrat.core.laminate.exposure import EXACT, SCREEN, stations
from varistrat.core.starters import blade, design
from varistrat.core.study.lamina import Lamina
from varistrat.core.study.tolerances import Sizes, whole_study

POINTS = 1_000_000
Row = tuple[str, str, str, str]


def cloud(f: Forged, n: int, dtype: type) -> list[np.ndarray]:
    rng = np.random.default_rng(1)
    bar = f.bar
    sizes = ((0.0, bar.length), (-bar.width / 2, bar.width / 2), (-bar.thickness / 2, bar.thickness / 2))
    return [rng.uniform(low, high, n).astype(dtype) for low, high in sizes]


def ours(trace: Trace, xyz: list[np.ndarray]) -> np.ndarray:
    out = np.empty_like(xyz[0])
    for start in range(0, out.size, BLOCK):
        x, y, z = (v[start : start + BLOCK].copy() for v in xyz)
        p = trace.begun(Points(x, y, z))
        out[start : start + BLOCK] = p.z
    return out


def whole(trace: Trace, xyz: list[np.ndarray]) -> np.ndarray:
    """The same steps, one after the other, on whole float64 arrays."""
    x, y, z = (v.copy() for v in xyz)
    for stage in reversed(trace.forged.stages):
        p = Points(x, y, z)
        stage.step.pull(p, stage.before, stage.after)
        x, y, z = p.x, p.y, p.z
    return z


def c_loop(f: Forged) -> Callable[[list[np.ndarray]], list[np.ndarray]] | None:
    compiler = shutil.which("gcc") or shutil.which("cc")
    if not compiler:
        return None
    folder = tempfile.mkdtemp()
    library = Path(folder) / "twelve.so"
    source = Path(__file__).with_name("twelve.c")
    flags = ["-O3", "-march=native", "-ffast-math", "-fopenmp-simd", "-shared", "-fPIC"]
    subprocess.run([compiler, *flags, str(source), "-o", str(library), "-lmvec", "-lm"], check=True)
    run = ctypes.CDLL(str(library)).pull
    k = _constants(f)
    floats = ctypes.POINTER(ctypes.c_float)

    def pull(xyz: list[np.ndarray]) -> list[np.ndarray]:
        out = [v.copy() for v in xyz]
        run(*(v.ctypes.data_as(floats) for v in out), ctypes.c_long(out[0].size), k.ctypes.data_as(floats))
        return out

    return pull


def _constants(f: Forged) -> np.ndarray:
    b = f.bars  # 0 stack .. 12 ground; b[i] is the bar after step i
    each = b[2].thickness - 1.0
    k = [
        b[10].length / b[11].length,
        b[10].width / b[11].width,
        b[10].thickness / b[11].thickness,
        b[10].width,
        b[9].length / b[10].length,
        2 * np.pi * 12 / b[8].length,
        b[7].length / b[9].length,
        b[4].length / b[7].length,
        b[4].width,
        b[4].thickness,
        1.0,
        0.0,
        1 / each,
        each,
        each / 2,
        b[3].length,
        b[1].length / b[2].length,
        b[1].width / b[2].width,
        b[1].thickness / b[2].thickness,
        b[0].length / b[1].length,
        b[0].thickness / b[1].thickness,
    ]
    # the weld between: from b[4] to the pile b[3]
    k[8], k[9], k[10] = b[3].width, b[3].thickness, b[3].length / b[4].length
    k[11] = b[3].thickness / 2
    return np.array(k, np.float32)


def run() -> list[Row]:
    os.sched_setaffinity(0, {min(os.sched_getaffinity(0))})
    try:
        return _run()
    finally:
        os.sched_setaffinity(0, set(range(os.cpu_count() or 1)))


def _run() -> list[Row]:
    f = forge(read_recipe(TWELVE).bar)
    trace = Trace(f)
    single, double = cloud(f, POINTS, np.float32), cloud(f, POINTS, np.float64)
    c = c_loop(f)
    both = tries(timed(lambda: ours(trace, single), lambda: c(single) if c else None), 9, 30)
    mine, fast = both.best(0), both.best(1)
    plain = best(lambda: whole(trace, double), 5)
    rows: list[Row] = [
        (
            "12-step pull-back, ours (float32 blocks, one core)",
            f"{mine / POINTS * 1e9:.0f} ns a point",
            "about 100",
            f"1 M points, pinned to one core; {both.how}",
        ),
        (
            "12-step pull-back, whole-array float64 NumPy",
            f"{plain / POINTS * 1e9:.0f} ns a point",
            "",
            "the same steps one by one on whole arrays",
        ),
        ("times faster than whole-array float64", f"{plain / mine:.1f}", "at least 6", "side by side in one run"),
    ]
    if c:
        agree = np.abs(c(single)[2] - whole(trace, [v.astype(float) for v in single])) < 0.02
        if agree.mean() < 0.995:
            raise SystemExit(f"the C loop is not the same recipe: {agree.mean():.3f} agree")
        rows += [
            (
                "12-step pull-back, hand-vectorised C",
                f"{fast / POINTS * 1e9:.0f} ns a point",
                "",
                f"gcc -O3 -march=native -ffast-math; {agree.mean():.2%} of heights agree to 0.02 mm",
            ),
            ("times the C loop's cost", f"{both.ratio(0, 1):.2f}", "at most 1.8", f"side by side in each try; {both.how}"),
        ]
    else:
        rows.append(("hand-vectorised C", "not measured", "", "no C compiler found"))
    quarter = best(lambda: ours(trace, [v[: POINTS // 4] for v in single]))
    rows.append(("cost of 1 M points over 4 x 250 k", f"{mine / (4 * quarter):.2f}", "1 (linear)", "points"))
    for steps in (24, 48):
        longer = Trace(forge(read_recipe(many(steps)).bar))
        points = cloud(longer.forged, POINTS // 4, np.float32)
        rows.append(
            (
                f"pull-back of {steps} steps",
                f"{best(lambda t=longer, p=points: ours(t, p)) / (POINTS // 4) * 1e9 / steps:.1f} ns a point and step",
                "linear",
                "12 steps: " + f"{mine / POINTS * 1e9 / 12:.1f}",
            )
        )
    four = Trace(forge(read_recipe(FOUR).bar))
    points = cloud(four.forged, POINTS, np.float32)
    joined = best(lambda: placed(four, points))
    alone = best(lambda: placed(trace, single))
    rows += [
        (
            "assembly of four 14-step bars, 6 steps more: to the place in the pile",
            f"{joined / POINTS * 1e9:.0f} ns a point",
            "",
            "every point parted by bar and put together again, joints not watched; points spread all over, which is the dearest way",
        ),
        ("times the 12-step recipe's cost", f"{joined / alone:.2f}", "at most 2.5", "the same work for both, side by side in one run"),
    ]
    return rows + _blades()


def _blades() -> list[Row]:
    """The core line at 200 stations, of a plain laminate and of a pile traced through its steps."""
    bar = laminates.three_layer()
    cut = Worked.of(read_document(design(bar["start"], bar["steps"], blade("drop_point", 150.0, 30.0, (4.0, 3.6, 2.2), 0.4)))).cut
    assert cut
    plain = Cut.of(
        read_blade(
            cut.geometry.blade.as_json()
            | {"laminate": {"core": {"steel": "1095", "share": 0.3}, "clad": {"steel": "1018"}}, "forging": {"bar_thickness": 4.7}}
        )
    )
    found = []
    for name, each, scan in (("plain laminate", plain, EXACT), ("traced through its steps", cut, SCREEN)):
        took = best(lambda c=each, s=scan: list(c.exposure(200, s)), 9)
        found.append(
            (
                f"core line of both sides at 200 stations, {name}",
                f"{1000 * took:.0f} ms",
                "20 ms",
                f"{scan.scan} heights scanned, {scan.rounds} halvings; pinned to one core",
            )
        )
    return found


def study_rows() -> list[Row]:
    """The tolerance study on all cores."""
    bar = laminates.three_layer()
    rows = []
    for kind in ("flat", "convex"):
        document = design(bar["start"], bar["steps"], blade("drop_point", 150.0, 30.0, (4.0, 3.6, 2.2), 0.4))
        for side in ("right", "left"):
            document["blade"]["grind"][side] = {"kind": kind, "edge_thickness": 0.4}
        cut = Worked.of(read_document(document)).cut
        assert cut
        lamina = Lamina.of(cut, stations(cut.geometry, 60))
        with pool() as executor:
            took = best(lambda la=lamina, c=cut, e=executor: whole_study(la, Sizes(), Band.of(Aim(), c.geometry), e), 5)
        rows.append(
            (
                f"tolerance study, {kind} grind",
                f"{took:.1f} s",
                "3 s",
                "10,000 blades x 60 stations x 2 sides, and Sobol indices from 10 x 4096 more",
            )
        )
    return rows


def placed(trace: Trace, xyz: list[np.ndarray]) -> None:
    """Places on the axis of all piles, block by block."""
    for start in range(0, xyz[0].size, BLOCK):
        x, y, z = (v[start : start + BLOCK].copy() for v in xyz)
        trace.place(Points(x, y, z))


def memory() -> list[Row]:
    """A 20-megapixel face in a process of its own; its peak memory."""
    code = (
        "from benchmarks.recipes import TWELVE\n"
        "from varistrat.core.bars.forged import forge\n"
        "from varistrat.core.bars.recipe import read_recipe\n"
        "from varistrat.core.bars.trace import Trace, pool\n"
        "from varistrat.core.pattern.picture import FULL, Subject, draw\n"
        "from varistrat.core.pattern.views import FaceView\n"
        "f = forge(read_recipe(TWELVE).bar)\n"
        "with pool() as executor:\n"
        "    grey = draw(Subject(Trace(f)), FaceView(f.bar, 1.0, 0.0, 60.0), 6124, executor, FULL)\n"
        # the peak of this program alone: what getrusage says counts the one that started it
        "peak = next(line for line in open('/proc/self/status') if line.startswith('VmHWM')).split()[1]\n"
        "print(grey.size, peak)\n"
    )
    start = time.perf_counter()
    done = subprocess.run([os.sys.executable, "-c", code], capture_output=True, text=True, check=True)  # type: ignore[attr-defined]
    pixels, peak = map(int, done.stdout.split())
    took = time.perf_counter() - start
    return [
        (
            f"peak memory of a {pixels / 1e6:.1f}-megapixel face",
            f"{peak / 1024:.0f} MB",
            "under 300 MB",
            (
                f"own process, 2 x 2 samples a pixel, {took:.1f} s in all; this process "
                f"{resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024:.0f} MB"
            ),
        )
    ]
