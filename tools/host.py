"""A host of a test's own: a network namespace with an address on a bridge. Needs root."""

import os
import signal
import subprocess
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from pathlib import Path

_BRIDGE, _NET = "noemabr", "10.77.0"
GATEWAY = f"{_NET}.1"
"""The address of the machine itself, from which everybody asks."""


def bridge_up() -> None:
    """Make the bridge that all hosts are on."""
    bridge_down()
    _ip("link", "add", _BRIDGE, "type", "bridge")
    _ip("addr", "add", f"{GATEWAY}/24", "dev", _BRIDGE)
    _ip("link", "set", _BRIDGE, "up")


def bridge_down() -> None:
    """Remove the bridge, where there is one."""
    subprocess.run(["ip", "link", "del", _BRIDGE], check=False, capture_output=True)


def _ip(*words: str) -> None:
    subprocess.run(["ip", *words], check=True)


@dataclass(frozen=True, kw_only=True)
class Program:
    """What runs on a host; it is started anew whenever it ends, as the services' units say."""

    words: Sequence[str]
    environment: Mapping[str, str] = field(default_factory=dict)


@dataclass(frozen=True, kw_only=True)
class Host:
    """A host by name, the last part of its address, and what runs on it."""

    name: str
    number: int
    programs: Sequence[Program] = ()
    log: Path

    @property
    def address(self) -> str:
        """Give its address."""
        return f"{_NET}.{self.number}"

    @property
    def _space(self) -> str:
        return f"noema-{self.name}"

    @property
    def _wire(self) -> str:
        return f"nm{self.number}"

    def plug_in(self) -> None:
        """Make the host and join it to the bridge."""
        self._unplug()
        _ip("netns", "add", self._space)
        _ip("link", "add", self._wire, "type", "veth", "peer", "name", "eth0", "netns", self._space)
        _ip("link", "set", self._wire, "master", _BRIDGE, "up")
        for words in (
            ("addr", "add", f"{self.address}/24", "dev", "eth0"),
            ("link", "set", "eth0", "up"),
            ("link", "set", "lo", "up"),
        ):
            _ip("-n", self._space, *words)

    def cut(self) -> None:
        """Take it off the network: nothing it says is heard any more."""
        _ip("link", "set", self._wire, "down")

    def join(self) -> None:
        """Put it on the network again."""
        _ip("link", "set", self._wire, "up")

    def start(self) -> None:
        """Start what runs on it."""
        with self.log.open("ab") as log:
            for program in self.programs:
                again = f"while true; do {' '.join(program.words)}; sleep 1; done"
                subprocess.Popen(
                    ["ip", "netns", "exec", self._space, "sh", "-c", again],
                    env={**os.environ, **program.environment},
                    stdout=log,
                    stderr=log,
                    stdin=subprocess.DEVNULL,
                    start_new_session=True,
                )

    def kill(self) -> None:
        """Kill whatever runs on it, at once."""
        for _ in range(3):
            for pid in self._pids():
                try:
                    os.kill(pid, signal.SIGKILL)
                except ProcessLookupError:
                    continue

    def lose_power(self) -> None:
        """Lose it: nobody is told, and nothing it did is finished."""
        self.cut()
        self.kill()

    def remove(self) -> None:
        """End everything on it and remove it."""
        self.kill()
        self._unplug()

    def _unplug(self) -> None:
        for words in (("link", "del", self._wire), ("netns", "del", self._space)):
            subprocess.run(["ip", *words], check=False, capture_output=True)

    def _pids(self) -> list[int]:
        found = subprocess.run(
            ["ip", "netns", "pids", self._space], check=True, capture_output=True, text=True
        )
        return [int(pid) for pid in found.stdout.split()]
