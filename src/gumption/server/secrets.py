"""Passwords of what rows are fetched from."""

from __future__ import annotations

import os
from pathlib import Path

from cryptography.fernet import Fernet, InvalidToken

from gumption.intake.errors import UnreadableFile


class Secrets:
    """Passwords sealed with a key that only this data folder has."""

    def __init__(self, path: Path) -> None:
        if not path.exists():
            descriptor = os.open(path, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600)
            with os.fdopen(descriptor, "wb") as stream:
                stream.write(Fernet.generate_key())
        self._box = Fernet(path.read_bytes())

    def sealed(self, secret: str) -> str:
        return self._box.encrypt(secret.encode()).decode()

    def opened(self, sealed: str, name: str) -> str:
        try:
            return self._box.decrypt(sealed.encode()).decode()
        except InvalidToken as error:
            raise UnreadableFile(name, "its password cannot be opened any more.", "Connect to it anew.") from error
