"""The benchmark's data, made by the generator from the registries and brought in like any file."""

from __future__ import annotations

import subprocess
import sys
from pathlib import Path

from gumption.cli.files import Opened, open_files


def make_tables(folder: Path, scale: float) -> Opened:
    """The eight tables of a scale, read from the generator's CSV files. The folder must exist."""
    files, tables = folder / "csv", folder / "tables"
    files.mkdir()
    tables.mkdir()
    generator = Path(sys.executable).with_name("tpchgen-cli")
    subprocess.run(
        [str(generator), "csv", "-s", f"{scale:g}", "--output-dir", str(files)], check=True, capture_output=True
    )
    return open_files([str(path) for path in sorted(files.iterdir())], None, tables)
