"""Pages of HTML as they leave: with the library that draws their charts, and printed to PDF by the browser."""

from __future__ import annotations

import contextlib
import functools
import os
import shutil
import subprocess
import sys
import tempfile
from importlib import metadata
from pathlib import Path

from gumption.core.folio.as_html import as_html
from gumption.core.folio.document import Document
from gumption.engines.errors import CannotAnswer

_SECONDS = 60.0
_DRAWING = 5_000
"""Milliseconds of the page's own time after which it is printed: its charts are drawn by then."""


_BUNDLED = (
    "import sys, vl_convert;"
    "sys.stdout.buffer.write(vl_convert.javascript_bundle('window.vegaEmbed = vegaEmbed').encode('utf-8'))"
)


@functools.cache
def library() -> str:
    """The script that draws charts in a page of its own, made once an installation. Raises CannotAnswer."""
    kept = Path(sys.prefix) / "share" / f"charts-{metadata.version('vl-convert-python')}.js"
    if kept.is_file():
        return kept.read_text(encoding="utf-8")
    # What bundles it takes a hundred times the memory of the script: it is done elsewhere, and ends there.
    command = [sys.executable, "-c", _BUNDLED]
    try:
        made = subprocess.run(command, capture_output=True, check=True, timeout=_SECONDS).stdout
    except subprocess.SubprocessError as error:
        problem = "The script that draws charts could not be made."
        raise CannotAnswer(problem, "Save the page in another form.") from error
    # Where the installation may not be written to, it is made again by the next that starts.
    with contextlib.suppress(OSError):
        kept.parent.mkdir(exist_ok=True)
        unfinished = kept.with_suffix(f".{os.getpid()}")
        unfinished.write_bytes(made)
        unfinished.replace(kept)
    return made.decode("utf-8")


def page_html(document: Document, *, open_proof: bool = False) -> str:
    """A page as one file of HTML that needs nothing else."""
    return as_html(document, library() if document.charted else "", open_proof=open_proof)


def write_pdf(document: Document, path: Path) -> None:
    """A page as it is printed, its proof behind it. Raises CannotAnswer where no browser is there to print it."""
    chromium = shutil.which("chromium")
    if chromium is None:
        raise CannotAnswer(
            "Pages are printed by Chromium, which is not installed here.",
            "Install it with: sudo apt-get install chromium, or save the page as HTML and print that.",
        )
    with tempfile.TemporaryDirectory() as scratch:
        page = Path(scratch) / "page.html"
        page.write_text(page_html(document, open_proof=True), encoding="utf-8")
        command = [
            chromium,
            "--headless",
            "--no-sandbox",
            "--disable-gpu",
            "--disable-dev-shm-usage",
            # Nothing of a page is elsewhere, and nothing of it is to go there.
            "--host-resolver-rules=MAP * ~NOTFOUND",
            f"--user-data-dir={scratch}/profile",
            "--no-pdf-header-footer",
            f"--virtual-time-budget={_DRAWING}",
            f"--print-to-pdf={path}",
            page.as_uri(),
        ]
        try:
            done = subprocess.run(command, capture_output=True, check=False, timeout=_SECONDS)
        except subprocess.TimeoutExpired as error:
            raise CannotAnswer("Printing took too long and was stopped.", "Save the page as HTML instead.") from error
    if done.returncode or not path.exists():
        raise CannotAnswer("The page could not be printed.", "Save it as HTML and print that.")
