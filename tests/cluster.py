"""A cluster on this machine, for tests and measurements: a scheduler and some workers on loopback, ended afterwards."""

import json
import subprocess
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any

from tests.waiting import PATIENCE, until


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
            until(lambda: address.exists() and address.read_text().strip(), "the scheduler does not come")
            where = json.loads(address.read_text())["address"].removeprefix("tcp://")
            hands = [
                subprocess.Popen(
                    [sys.executable, "-m", "distributed.cli.dask_worker", where, "--nthreads", "1", "--no-nanny", *common],
                    stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL,
                )
                for _ in range(count)
            ]  # fmt: skip
            began += hands
            with _asked(where) as client:
                client.wait_for_workers(count, timeout=PATIENCE)
            yield where, hands
        finally:
            for process in began:
                process.kill()
                process.wait()


@contextmanager
def _asked(where: str) -> Iterator[Any]:
    from distributed import Client

    client = Client(f"tcp://{where}", timeout=PATIENCE, set_as_default=False)  # type: ignore[no-untyped-call]
    yield client
    client.close()  # type: ignore[no-untyped-call]


def none_left(where: str) -> None:
    """Until the scheduler knows that its last worker is gone."""
    with _asked(where) as client:
        until(lambda: not client.scheduler_info()["workers"], "a worker is still there")
