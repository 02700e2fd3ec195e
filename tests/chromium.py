"""How headless Chromium is started, for tests, screenshots and benchmarks alike."""

from pathlib import Path

CHROMIUM = "/usr/bin/chromium"
_SHELL = "/usr/bin/chromium-headless-shell"
SHELL = _SHELL if Path(_SHELL).exists() else CHROMIUM
"""The same engine without the windows of a desktop: half the work for the same page. No WebGL is asked of it."""
_ALWAYS = [
    "--no-sandbox",
    "--disable-dev-shm-usage",
    "--hide-scrollbars",
    "--force-color-profile=srgb",
    "--font-render-hinting=none",
    "--disable-background-networking",
    "--no-first-run",
    "--disable-sync",
    "--disable-component-update",
    "--disable-quic",
    # a camera that shows a moving picture, and no question whether it may be used
    "--use-fake-device-for-media-stream",
    "--use-fake-ui-for-media-stream",
]
FLAGS = [*_ALWAYS, "--use-gl=angle", "--use-angle=swiftshader", "--enable-unsafe-swiftshader"]
"""With WebGL, worked out by the processor."""
FLAT = [*_ALWAYS, "--disable-gpu", "--disable-gpu-compositing", "--disable-software-rasterizer"]
"""Without WebGL: a page costs less than half."""
