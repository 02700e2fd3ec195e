"""`python -m varistrat.site.server PORT`: brings the database up to date, then serves.

One process does what would be four starts of Django: migrate, demo data, the server, and
(beside it) the task worker, which ends with it.
"""

import os
import signal
import subprocess
import sys
import threading

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "varistrat.site.settings")
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")


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
    from varistrat.core.etch.look import noise

    noise()
    import trimesh  # noqa: F401


def main(port: int) -> None:
    prepare()
    from django.conf import settings
    from waitress import create_server

    from varistrat.site.wsgi import application

    host = os.environ.get("VARISTRAT_BIND", "127.0.0.1")
    # behind a proxy its word on https counts (SECURE_PROXY_SSL_HEADER); in a demo nobody's does
    limits = {"threads": 8, "max_request_body_size": 4_000_000, "channel_timeout": 60, "clear_untrusted_proxy_headers": settings.DEMO}
    try:
        server = create_server(application, host=host, port=port, ident=None, **limits)
    except OSError as e:
        raise SystemExit(f"Port {port} cannot be used ({e.strerror}); choose another with --port.") from e
    worker = subprocess.Popen(
        [sys.executable, "manage.py", "db_worker", "--no-startup-delay", "--interval", "0.2"],
        stdout=subprocess.DEVNULL,
        stderr=subprocess.DEVNULL,
    )
    signal.signal(signal.SIGTERM, lambda *_: sys.exit(0))
    # threads that draw pictures hold the interpreter for moments only, so that a short question need not wait for a long one
    sys.setswitchinterval(0.001)
    threading.Thread(target=_warm, daemon=True).start()
    print(f"Varistrat is at http://localhost:{port}  (stop with Ctrl-C)", flush=True)
    try:
        server.run()
    finally:
        worker.terminate()


if __name__ == "__main__":
    main(int(sys.argv[1]))
