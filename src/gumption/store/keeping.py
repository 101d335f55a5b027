"""A data folder as one file, and back: its records, its tables and its key, while the server runs or when it does not."""

from __future__ import annotations

import io
import os
import subprocess
import tarfile
import tempfile
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from gumption.store.private_server import Address, DatabaseUnavailable, PrivateServer, running_at

_FILES = ("workspaces", "tables", "incoming", "secret.key")
"""The last but one and the one before stood there as long as there was one workspace."""
_BASE, _RECORDS = "base", "records.sql"
_TRIES = 5


class CannotKeep(Exception):
    """A backup could not be made or put back; says why in one line."""


def back_up(folder: Path, target: Path) -> int:
    """Write all that a data folder holds to a .tar file, which is there whole or not at all; its bytes.

    The records are those of one moment. Files are written before records that name them and are never changed, so that
    only one that was deleted meanwhile can be missing: then it is begun anew.
    """
    if not (folder / "mariadb").is_dir():
        raise CannotKeep(f"{folder} is no data folder of Gumption's")
    target.parent.mkdir(parents=True, exist_ok=True)
    with _database(folder) as address:
        for turn in range(_TRIES):
            descriptor, name = tempfile.mkstemp(prefix=f".{target.name}-", dir=target.parent)
            try:
                with os.fdopen(descriptor, "wb") as stream, tarfile.open(fileobj=stream, mode="w") as tar:
                    _add(tar, _BASE, str(folder.resolve()).encode())
                    _add(tar, _RECORDS, _run("mariadb-dump", address, "--single-transaction", "--no-tablespaces"))
                    for part in _FILES:
                        if (folder / part).exists():
                            tar.add(folder / part, part, filter=_kept)
                Path(name).replace(target)
                return target.stat().st_size
            except FileNotFoundError as error:
                Path(name).unlink(missing_ok=True)
                if turn == _TRIES - 1:
                    raise CannotKeep("tables come and go too quickly; try again") from error
            except BaseException:
                Path(name).unlink(missing_ok=True)
                raise
    raise AssertionError("every turn returns or raises")


def restore(source: Path, folder: Path) -> None:
    """Make a data folder of a backup. Raises CannotKeep where there is one already, or the file is no backup."""
    if folder.exists() and any(folder.iterdir()):
        raise CannotKeep(f"{folder} is not empty; give a folder that is, or does not exist")
    try:
        with tarfile.open(source) as tar:
            base, records = (_content(tar, name) for name in (_BASE, _RECORDS))
            folder.mkdir(parents=True, exist_ok=True)
            folder.chmod(0o700)
            parts = [m for m in tar.getmembers() if m.name.split("/")[0] in _FILES]
            tar.extractall(folder, parts, filter="data")
    except (tarfile.TarError, KeyError, OSError) as error:
        raise CannotKeep(f"{source} cannot be read as a backup: {error}") from error
    here = str(folder.resolve()).encode()
    for part in _FILES:
        # Records name their files by whole paths.
        records = records.replace(base + b"/" + part.encode() + b"/", here + b"/" + part.encode() + b"/")
    with _database(folder) as address:
        _run("mariadb", address, given=records)


@contextmanager
def _database(folder: Path) -> Iterator[Address]:
    """The folder's database: the one that runs, or one for as long as the block does."""
    address = running_at(folder)
    if address is not None:
        yield address
        return
    server = PrivateServer(folder)
    try:
        yield server.start()
    except DatabaseUnavailable as error:
        raise CannotKeep(str(error)) from error
    finally:
        server.stop()


def _run(program: str, address: Address, *options: str, given: bytes | None = None) -> bytes:
    where = [f"--host={address.host}", f"--port={address.port}", f"--user={address.user}", "--protocol=tcp"]
    command = [program, "--no-defaults", *where, *options, address.database]
    try:
        done = subprocess.run(
            command, input=given, capture_output=True, check=False, env={**os.environ, "MYSQL_PWD": address.password}
        )
    except FileNotFoundError as error:
        raise CannotKeep(f"{program} is not installed; run: sudo apt-get install -y mariadb-client") from error
    if done.returncode:
        raise CannotKeep(done.stderr.decode(errors="replace").strip().splitlines()[-1])
    return done.stdout


def _kept(member: tarfile.TarInfo) -> tarfile.TarInfo | None:
    """All files but those that are only there while something is worked out."""
    parts = member.name.split("/")
    return None if parts[0] == "workspaces" and parts[2:3] == ["scratch"] else member


def _add(tar: tarfile.TarFile, name: str, content: bytes) -> None:
    member = tarfile.TarInfo(name)
    member.size, member.mtime, member.mode = len(content), int(time.time()), 0o600
    tar.addfile(member, io.BytesIO(content))


def _content(tar: tarfile.TarFile, name: str) -> bytes:
    stream = tar.extractfile(name)
    if stream is None:
        raise KeyError(name)
    with stream:
        return stream.read()
