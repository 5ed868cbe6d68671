"""The meter over Modbus TCP on loopback: a register map of our own, floating point, most significant word first."""

from __future__ import annotations

import asyncio
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any, cast

from pymodbus.server import ModbusTcpServer
from pymodbus.simulator import DataType, SimData, SimDevice

from vinegate.bench.instruments import Meter
from vinegate.instruments.meter import BENCH_MARK, UNIT, VALUES


def device(meter: Meter) -> SimDevice:
    """Unit 1: the values in their order from register 0, then the mark by which it is known as simulated."""
    found = meter.read()
    return SimDevice(
        UNIT, simdata=[SimData(0, values=[*(found[name] for name in VALUES), BENCH_MARK], datatype=DataType.FLOAT32)]
    )


@contextmanager
def served(meter: Meter, port: int = 0) -> Iterator[int]:
    """The meter at a port of loopback while this lasts; the port is given."""
    ready: threading.Event = threading.Event()
    state: dict[str, Any] = {}

    async def serve() -> None:
        server = ModbusTcpServer(device(meter), address=("127.0.0.1", port))
        await server.serve_forever(background=True)
        state["port"] = cast(Any, server.transport).sockets[0].getsockname()[1]
        state["stop"], state["loop"] = asyncio.Event(), asyncio.get_running_loop()
        ready.set()
        await state["stop"].wait()
        await cast(Any, server).shutdown()

    thread = threading.Thread(target=lambda: asyncio.run(serve()), daemon=True)
    thread.start()
    if not ready.wait(10):
        raise RuntimeError("the bench's meter did not start")
    try:
        yield int(state["port"])
    finally:
        state["loop"].call_soon_threadsafe(state["stop"].set)
        thread.join(10)
