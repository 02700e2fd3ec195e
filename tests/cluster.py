"""A cluster on this machine, for tests and measurements: a scheduler and some workers on loopback, ended afterwards."""

import json
import subprocess
import sys
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from tempfile import TemporaryDirectory


@contextmanager
def cluster(count: int) -> Iterator[tuple[str, list[subprocess.Popen[bytes]]]]:
    """A scheduler and so many worker processes on loopback: (host:port, the workers)."""
    with TemporaryDirectory() as folder:
        address = Path(folder) / "scheduler.json"
        common = ["--local-directory", folder, "--no-dashboard"]
        began = [
            subprocess.Popen(
                [sys.executable, "-m", "distributed.cli.dask_scheduler", "--host", "127.0.0.1", "--port", "0", "--no-dashboard",
                 "--scheduler-file", str(address), "--no-jupyter"],
                stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL,
            )
        ]  # fmt: skip
        try:
            for _ in range(600):
                if address.exists() and address.read_text().strip():
                    break
                time.sleep(0.1)
            where = json.loads(address.read_text())["address"].removeprefix("tcp://")
            hands = [
                subprocess.Popen(
                    [sys.executable, "-m", "distributed.cli.dask_worker", where, "--nthreads", "1", "--no-nanny", *common],
                    stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL,
                )
                for _ in range(count)
            ]  # fmt: skip
            began += hands
            _await(where, count)
            yield where, hands
        finally:
            for process in began:
                process.kill()
                process.wait()


def _await(where: str, count: int) -> None:
    from distributed import Client

    client = Client(f"tcp://{where}", timeout=30, set_as_default=False)  # type: ignore[no-untyped-call]
    client.wait_for_workers(count, timeout=90)
    client.close()  # type: ignore[no-untyped-call]
