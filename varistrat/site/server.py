"""`python -m varistrat.site.server PORT`: brings the database up to date, then serves.

One process does what would be four starts of Django: migrate, demo data, the server, and
(beside it) the workers, one a lane, and in a real shop more servers on the same socket; all end with it.
"""

import errno
import gc
import os
import signal
import socket
import sys
import threading
import time
from contextlib import suppress
from typing import Any

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "varistrat.site.settings")
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")


FIRST_PAGE = 2.0
"""Seconds that the server has for itself before the workers start beside it."""


BIND_PATIENCE = 5.0
"""Seconds until the serving processes of a server that was killed have let go of its port."""
BACKLOG = 1024
BESIDE = "--beside"
"""Told to a server that is one more on a socket it is handed."""


COLLECT = 20_000, 20, 20
"""New objects before young garbage is looked for, and how often before older."""


def prepare() -> None:
    """Migrate, and in a demo load the demo shop if nobody is in it yet."""
    import django
    from django.conf import settings
    from django.core.management import call_command

    django.setup()
    call_command("migrate", verbosity=0)
    if settings.DEMO:
        call_command("loaddemo")


def _warm() -> None:
    """What the first picture, study and solid should not have to wait for, and the server's start neither."""
    from varistrat.core.etch.daylight import noise

    noise()
    import scipy.stats.qmc  # noqa: F401
    import trimesh  # noqa: F401

    _spare_the_collector()


def _spare_the_collector() -> None:
    """What was loaded stays: to look through it for garbage again and again costs a sixth of every short answer."""
    gc.collect()
    gc.freeze()
    gc.set_threshold(*COLLECT)


def main(port: int) -> None:
    from django.conf import settings

    from varistrat.site.keeping import InUse, at_work, make_private

    try:
        with at_work(settings.DATA_DIR, patience=6.0):
            make_private(settings.DATA_DIR)
            prepare()
            make_private(settings.DATA_DIR)
            serve(port)
    except InUse as e:
        raise SystemExit(f"Another server is at work on {settings.DATA_DIR}; stop it, or choose another folder with --data.") from e


def _listening(host: str, port: int) -> socket.socket:
    """Raises SystemExit when somebody else has the port."""
    found = socket.socket(socket.AF_INET6 if ":" in host else socket.AF_INET, socket.SOCK_STREAM)
    found.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    until = time.monotonic() + BIND_PATIENCE
    while True:
        try:
            found.bind((host, port))
            # at once: a second one that binds must fail here, not later
            found.listen(BACKLOG)
            return found
        except OSError as e:
            if e.errno != errno.EADDRINUSE or time.monotonic() > until:
                raise SystemExit(f"Port {port} cannot be used ({e.strerror}); choose another with --port.") from e
            time.sleep(0.1)


def _answering(sock: socket.socket) -> Any:
    from django.conf import settings
    from waitress import create_server

    from varistrat.site.wsgi import application

    # threads that draw pictures hold the interpreter for moments only, so that a short question need not wait for a long one
    sys.setswitchinterval(0.001)
    return create_server(
        application,
        sockets=[sock],
        ident=None,
        # most wait for a heavy question's turn (api/gate.py) and cost nothing
        threads=24,
        connection_limit=1000,
        backlog=BACKLOG,
        channel_timeout=30,
        cleanup_interval=5,
        asyncore_use_poll=True,
        # a photo with its form; what is read as JSON is bounded far below (core/limits.py)
        max_request_body_size=27_000_000,
        # the browser going away is seen while its question is at work
        channel_request_lookahead=2,
        # behind a proxy its word on https counts (SECURE_PROXY_SSL_HEADER); elsewhere nobody's does
        clear_untrusted_proxy_headers=not settings.SERVE,
    )


def serve(port: int) -> None:
    from django.conf import settings

    from varistrat.site.child import Supervisor
    from varistrat.site.worker import LANES, Worker

    sock = _listening(os.environ.get("VARISTRAT_BIND", "0.0.0.0" if settings.LAN else "127.0.0.1"), port)
    server = _answering(sock)
    children: list[Supervisor] = [Worker(settings.DATA_DIR, lane) for lane in LANES]
    for n in range(1, settings.SERVERS):
        command = [sys.executable, "-m", "varistrat.site.server", BESIDE, str(sock.fileno())]
        children.append(Supervisor(f"server {n}", command, settings.DATA_DIR / f"server-{n}.log", [sock.fileno()]))
    # the first page comes before anything else
    later = [threading.Timer(FIRST_PAGE, child.start) for child in children] + [threading.Timer(2 * FIRST_PAGE, _warm)]
    for timer in later:
        timer.daemon = True
        timer.start()
    signal.signal(signal.SIGTERM, lambda *_: sys.exit(0))
    print(f"Varistrat is at http://localhost:{port}  (stop with Ctrl-C)", flush=True)
    if settings.LAN:
        print("Plain http: only for your own shop's network. Who listens there can read along; never open it to the internet.", flush=True)
    try:
        server.run()
    finally:
        for timer in later:
            timer.cancel()
        for child in children:
            child.stop()
        _say_goodbye()


def _say_goodbye() -> None:
    from varistrat.designs.services.predict import work_done

    asked, made = work_done()
    print(f"Stopped. Of {asked} questions after a draft {made} had to be worked out, the others were found.", flush=True)


def beside(descriptor: int) -> None:
    """One more server on a socket that the first one listens at: whichever has nothing to do takes the next who knocks."""
    import django

    signal.signal(signal.SIGTERM, lambda *_: sys.exit(0))
    django.setup()
    server = _answering(socket.socket(fileno=descriptor))
    timer = threading.Timer(FIRST_PAGE, _warm)
    timer.daemon = True
    timer.start()
    # Ctrl-C reaches the whole group; the first server ends the others
    with suppress(KeyboardInterrupt):
        server.run()
    _say_goodbye()


if __name__ == "__main__":
    if sys.argv[1] == BESIDE:
        beside(int(sys.argv[2]))
    else:
        main(int(sys.argv[1]))
