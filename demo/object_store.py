"""A small stand-in for an object store: serves a folder's files by the S3 protocol's GET, to those who sign with its key.

    python demo/object_store.py FOLDER [--port 9000]

The folders in FOLDER are the buckets. Signatures are AWS Signature Version 4, checked by signing again.
"""

from __future__ import annotations

import argparse
import datetime as dt
import re
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path
from urllib.parse import unquote, urlsplit

from minio.credentials import Credentials
from minio.signer import sign_v4_s3

ACCESS_KEY, SECRET_KEY = "brackenfold", "demo-secret"
_AUTHORIZATION = re.compile(r"AWS4-HMAC-SHA256 Credential=([^/]+)/[^,]*, ?SignedHeaders=([^,]+), ?Signature=\w+")


class _Handler(BaseHTTPRequestHandler):
    protocol_version = "HTTP/1.1"
    folder: Path

    def do_GET(self) -> None:
        """An object, or an error in the protocol's XML."""
        if not self._signed():
            self._error(403, "SignatureDoesNotMatch", "The signature does not fit the key.")
            return
        parts = [p for p in unquote(urlsplit(self.path).path).split("/") if p]
        path = self.folder.joinpath(*parts)
        if len(parts) < 2 or ".." in parts or not path.resolve().is_relative_to(self.folder) or not path.is_file():
            self._error(404, "NoSuchKey", "There is no such object.")
            return
        content = path.read_bytes()
        self.send_response(200)
        self.send_header("Content-Length", str(len(content)))
        self.send_header("Content-Type", "application/octet-stream")
        self.send_header("Last-Modified", "Sat, 31 Oct 2026 08:00:00 GMT")
        self.end_headers()
        self.wfile.write(content)

    def _signed(self) -> bool:
        told = self.headers.get("Authorization", "")
        found = _AUTHORIZATION.fullmatch(told)
        moment = self.headers.get("x-amz-date", "")
        if found is None or found[1] != ACCESS_KEY or not re.fullmatch(r"\d{8}T\d{6}Z", moment):
            return False
        signed = {name: self.headers.get(name, "") for name in found[2].split(";")}
        again = sign_v4_s3(
            method="GET",
            url=urlsplit(f"http://{self.headers['Host']}{self.path}"),
            region="us-east-1",
            headers=signed,
            credentials=Credentials(ACCESS_KEY, SECRET_KEY),
            content_sha256=self.headers.get("x-amz-content-sha256", ""),
            date=dt.datetime.strptime(moment, "%Y%m%dT%H%M%SZ").replace(tzinfo=dt.UTC),
        )
        return again["Authorization"] == told

    def _error(self, status: int, code: str, message: str) -> None:
        body = f'<?xml version="1.0"?><Error><Code>{code}</Code><Message>{message}</Message><RequestId>0</RequestId><HostId>0</HostId></Error>'.encode()
        self.send_response(status)
        self.send_header("Content-Length", str(len(body)))
        self.send_header("Content-Type", "application/xml")
        self.end_headers()
        self.wfile.write(body)

    def log_message(self, format: str, *args: object) -> None:
        """Nothing is written of what was asked."""


def store(folder: Path, port: int) -> ThreadingHTTPServer:
    """The server, not yet serving; port 0 takes a free one."""
    handler = type("Handler", (_Handler,), {"folder": folder.resolve()})
    return ThreadingHTTPServer(("127.0.0.1", port), handler)


if __name__ == "__main__":
    parser = argparse.ArgumentParser(description="A stand-in object store for the demo.")
    parser.add_argument("folder", type=Path)
    parser.add_argument("--port", type=int, default=9000)
    options = parser.parse_args()
    server = store(options.folder, options.port)
    print(f"http://127.0.0.1:{server.server_port}, access key {ACCESS_KEY}, secret key {SECRET_KEY}", flush=True)
    server.serve_forever()
