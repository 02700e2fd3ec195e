"""How headless Chromium is started, for tests, screenshots and benchmarks alike."""

CHROMIUM = "/usr/bin/chromium"
FLAGS = [
    "--no-sandbox",
    "--disable-dev-shm-usage",
    "--use-gl=angle",
    "--use-angle=swiftshader",
    "--enable-unsafe-swiftshader",
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
