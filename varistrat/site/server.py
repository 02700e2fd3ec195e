"""`python -m varistrat.site.server PORT`: waitress, with its limits, and the address printed once it listens."""

import os
import sys

from waitress import create_server

os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")


def main(port: int) -> None:
    from varistrat.core.etch.look import noise
    from varistrat.site.wsgi import application

    host = os.environ.get("VARISTRAT_BIND", "127.0.0.1")
    try:
        server = create_server(
            application,
            host=host,
            port=port,
            threads=8,
            max_request_body_size=4_000_000,
            channel_timeout=60,
            ident=None,
            clear_untrusted_proxy_headers=False,
        )
    except OSError as e:
        raise SystemExit(f"Port {port} cannot be used ({e.strerror}); choose another with --port.") from e
    noise()  # the first picture should not pay for the noise tiles
    print(f"Varistrat is at http://localhost:{port}  (stop with Ctrl-C)", flush=True)
    server.run()


if __name__ == "__main__":
    main(int(sys.argv[1]))
