"""What must not get out: files beside the one that is brought in, and the token that signs commands in."""

from __future__ import annotations

import os
import socket
import tempfile
import threading
from pathlib import Path

import orjson

from benchmarks.served import served_in
from eddyfield.cli.arguments import UsageError
from eddyfield.cli.running import SERVING, RunningServer

from .bombs import upload
from .report import Report

SECRET = """#usda 1.0
def Mesh "Secret"
{
    point3f[] points = [(0, 0, 0), (1, 0, 0), (0, 1, 0)]
    int[] faceVertexCounts = [3]
    int[] faceVertexIndices = [0, 1, 2]
}
"""


def outside_files() -> Report:
    """Stages that name a file of the machine in every way that there is."""
    report = Report("files beside a stage")
    with served_in() as application, tempfile.TemporaryDirectory() as folder:
        client, secret = application.start(), Path(folder) / "secret.usda"
        secret.write_text(SECRET)
        for way, text in stages(secret).items():
            report.tried += 1
            status, said = upload(client, "a.usda", text.encode())
            if status >= 500 or (status == 200 and orjson.loads(said)["triangles"]):
                report.wrong.append(f"{way}: {status} {said[:120]!r}")
    return report


def stages(secret: Path) -> dict[str, str]:
    """By how they name the file."""
    variable = f'#usda 1.0\n(\n    expressionVariables = {{ string WHERE = "{secret}" }}\n)\n'
    return {
        "a reference": f'#usda 1.0\ndef Xform "A" (references = @{secret}@</Secret>)\n{{\n}}\n',
        "a payload": f'#usda 1.0\ndef Xform "A" (payload = @{secret}@</Secret>)\n{{\n}}\n',
        "a layer below": f"#usda 1.0\n(\n    subLayers = [@{secret}@]\n)\n",
        "a variable": variable + 'def Xform "A" (references = @`"${WHERE}"`@</Secret>)\n{\n}\n',
    }


def token_to_strangers() -> Report:
    """Somebody else listens where a server was that has been killed: commands tell it nothing."""
    report, heard = Report("the token told to strangers", tried=1), bytearray()
    with tempfile.TemporaryDirectory() as folder, socket.create_server(("127.0.0.1", 0)) as stranger:
        port = stranger.getsockname()[1]
        (Path(folder) / "sign-in-token").write_text("a-token-that-is-secret")
        (Path(folder) / SERVING).write_text(f"http://127.0.0.1:{port}")

        def listen() -> None:
            while True:
                try:
                    connection, _ = stranger.accept()
                except OSError:
                    return
                heard.extend(connection.recv(65536))
                connection.sendall(b"HTTP/1.1 200 OK\r\nContent-Length: 2\r\nConnection: close\r\n\r\nme")
                connection.close()

        threading.Thread(target=listen, daemon=True).start()
        before = os.environ.get("EDDYFIELD_VAR")
        os.environ["EDDYFIELD_VAR"] = folder
        try:
            RunningServer("bench")
            report.wrong.append("it was taken for the server")
        except UsageError:
            pass
        finally:
            os.environ.pop("EDDYFIELD_VAR") if before is None else os.environ.update(EDDYFIELD_VAR=before)
    if b"a-token-that-is-secret" in heard:
        report.wrong.append("it was told")
    return report
