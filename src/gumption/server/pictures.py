"""Pictures sent to a workspace, each by the name of its file: a cell of an answer that is such a name shows it."""

from __future__ import annotations

import shutil
from pathlib import Path

from gumption.intake.errors import UnreadableFile
from gumption.intake.pictures import picture_in

_LONGEST_NAME = 240
"""Bytes of a file's name."""


class Pictures:
    """The pictures of a workspace, in a folder of their own."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder

    def names(self) -> list[str]:
        """Their names, in order."""
        return sorted(path.name for path in self.folder.iterdir()) if self.folder.exists() else []

    def path(self, name: str) -> Path:
        """The file of that name. Raises KeyError."""
        path = self.folder / name
        if Path(name).name != name or not path.is_file():
            raise KeyError(name)
        return path

    def keep(self, file: str, path: Path) -> None:
        """Take a file among them, in place of one of the same name. Raises UnreadableFile where it is no picture."""
        if Path(file).name != file or len(file.encode()) > _LONGEST_NAME:
            raise UnreadableFile(file, "its name is too long or has a path in it.", "Rename it and send it again.")
        picture_in(path, file)
        self.folder.mkdir(parents=True, exist_ok=True)
        path.replace(self.folder / file)

    def remove(self, name: str) -> None:
        """Delete one for good. Raises KeyError."""
        self.path(name).unlink()

    def remove_all(self) -> None:
        """Delete all for good."""
        shutil.rmtree(self.folder, ignore_errors=True)
