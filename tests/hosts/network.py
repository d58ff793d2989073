"""Hosts on one machine: a network namespace each, a bridge between, the database behind a relay."""

from __future__ import annotations

import os
import signal
import socket
import subprocess
import threading
from collections.abc import Iterator
from contextlib import contextmanager, suppress

ROOM = "10.77.0"
BRIDGE = "strom-br"
DATABASE = f"{ROOM}.1"


def ip(*words: str) -> None:
    """Run ``ip`` with these words."""
    subprocess.run(["ip", *words], check=True)


class Host:
    """A host with an address of its own and the processes that run on it."""

    def __init__(self, name: str, number: int, environment: dict[str, str]) -> None:
        self.name, self.address = f"strom-{name}", f"{ROOM}.{number}"
        self.environment = environment
        self.processes: list[subprocess.Popen[bytes]] = []
        self._link = f"sb{number}"
        ip("netns", "add", self.name)
        ip("link", "add", self._link, "type", "veth", "peer", "name", "eth0", "netns", self.name)
        ip("link", "set", self._link, "master", BRIDGE, "up")
        for words in (
            ("addr", "add", f"{self.address}/24", "dev", "eth0"),
            ("link", "set", "eth0", "up"),
            ("link", "set", "lo", "up"),
        ):
            ip("-n", self.name, *words)

    def run(self, *command: str) -> subprocess.Popen[bytes]:
        """Start a process on this host."""
        started = subprocess.Popen(
            ["ip", "netns", "exec", self.name, *command],
            env=self.environment,
            start_new_session=True,
            stdout=subprocess.DEVNULL,
        )
        self.processes.append(started)
        return started

    def lose(self) -> None:
        """The host is gone at once: its network first, so that it can say good-bye to nobody."""
        with suppress(subprocess.CalledProcessError):
            ip("link", "set", self._link, "down")
        for process in self.processes:
            with suppress(ProcessLookupError):
                os.killpg(process.pid, signal.SIGKILL)
            process.wait(20)
        self.processes = []

    def remove(self) -> None:
        """Take it down with its network."""
        self.lose()
        ip("netns", "del", self.name)


def _pass_on(one: socket.socket, other: socket.socket) -> None:
    with suppress(OSError):
        while data := one.recv(65536):
            other.sendall(data)
    for end in (one, other):
        with suppress(OSError):
            end.shutdown(socket.SHUT_RDWR)


@contextmanager
def relay(port: int) -> Iterator[None]:
    """The database's port on loopback, given out to the hosts at the bridge."""
    door = socket.create_server((DATABASE, port))

    def serve() -> None:
        with suppress(OSError):
            while True:
                guest, _ = door.accept()
                within = socket.create_connection(("127.0.0.1", port))
                for ends in ((guest, within), (within, guest)):
                    threading.Thread(target=_pass_on, args=ends, daemon=True).start()

    threading.Thread(target=serve, daemon=True).start()
    try:
        yield
    finally:
        door.close()


@contextmanager
def bridge() -> Iterator[None]:
    """The network that the hosts are joined by."""
    with suppress(subprocess.CalledProcessError):
        subprocess.run(["ip", "link", "del", BRIDGE], check=True, stderr=subprocess.DEVNULL)
    ip("link", "add", BRIDGE, "type", "bridge")
    ip("addr", "add", f"{DATABASE}/24", "dev", BRIDGE)
    ip("link", "set", BRIDGE, "up")
    try:
        yield
    finally:
        ip("link", "del", BRIDGE)
