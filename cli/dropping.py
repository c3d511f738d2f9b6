"""A proxy that loses connections: a request on its way in, an answer on its way back, or all at once."""

from __future__ import annotations

import random
import socket
import threading
from contextlib import suppress

CHUNK = 16 * 1024


class Dropping:
    """Between clients and a web host. `drop` cuts everything that is under way; by itself it now and then
    takes a request to the host and loses the answer.
    """

    def __init__(self, port: int, seed: int, loses: float = 0.03) -> None:
        self.to, self.loses = port, loses
        self.lost_answers = 0
        self._rng = random.Random(seed)
        self._open: set[socket.socket] = set()
        self._lock = threading.Lock()
        self._listener = socket.create_server(("127.0.0.1", 0), backlog=128)
        self.port = int(self._listener.getsockname()[1])
        threading.Thread(target=self._accept, daemon=True).start()

    def drop(self) -> int:
        """Cut what is under way; how many connections."""
        with self._lock:
            cut, self._open = self._open, set()
        for sock in cut:
            _cut(sock)
        return len(cut)

    def close(self) -> None:
        self._listener.close()
        self.drop()

    def _accept(self) -> None:
        with suppress(OSError):
            while True:
                near, _ = self._listener.accept()
                threading.Thread(target=self._carry, args=(near,), daemon=True).start()

    def _carry(self, near: socket.socket) -> None:
        try:
            far = socket.create_connection(("127.0.0.1", self.to), timeout=30)
        except OSError:
            _cut(near)
            return
        with self._lock:
            self._open |= {near, far}
        out = threading.Thread(target=self._pump, args=(near, far, False), daemon=True)
        out.start()
        self._pump(far, near, True)
        out.join()
        with self._lock:
            self._open -= {near, far}
        for sock in (near, far):
            _cut(sock)

    def _pump(self, source: socket.socket, sink: socket.socket, answers: bool) -> None:
        with suppress(OSError):
            while data := source.recv(CHUNK):
                if answers and self._rng.random() < self.loses:
                    self.lost_answers += 1
                    break
                sink.sendall(data)
        for sock in (source, sink):
            with suppress(OSError):
                sock.shutdown(socket.SHUT_RDWR)


def _cut(sock: socket.socket) -> None:
    with suppress(OSError):
        sock.shutdown(socket.SHUT_RDWR)
    sock.close()
