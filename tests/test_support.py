"""The server that other tests start and kill: its port is its own from the first start to the last."""

from __future__ import annotations

import socket

import pytest

from tests.support import Server


def test_a_killed_server_refuses_at_once_keeps_its_port_and_comes_back(database_url: str) -> None:
    server = Server(database_url)
    try:
        port = server.port
        kill_and_come_back(server, port)
    finally:
        server.close()
    with socket.socket() as other:
        other.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        other.bind(("127.0.0.1", port))


def kill_and_come_back(server: Server, port: int) -> None:
    for _ in range(3):
        server.start()
        with socket.create_connection(("127.0.0.1", port)) as used:
            used.sendall(b"GET /api/health HTTP/1.0\r\n\r\n")
            assert used.recv(15).startswith(b"HTTP/1.")
            server.kill()
        with pytest.raises(ConnectionRefusedError):
            socket.create_connection(("127.0.0.1", port))
        with socket.socket() as other, pytest.raises(OSError, match="in use"):
            other.bind(("127.0.0.1", port))
