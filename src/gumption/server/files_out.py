"""Files that are sent to be kept."""

from __future__ import annotations

import re
from typing import Literal
from urllib.parse import quote

FileForm = Literal["csv", "xlsx", "parquet", "json"]
MEDIA: dict[FileForm, str] = {
    "csv": "text/csv",
    "xlsx": "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
    "parquet": "application/vnd.apache.parquet",
    "json": "application/json",
}
PageForm = Literal["html", "pdf", "xlsx", "md", "ipynb", "py", "sql", "json"]
PAGE_MEDIA: dict[PageForm, str] = {
    "html": "text/html",
    "pdf": "application/pdf",
    "xlsx": MEDIA["xlsx"],
    "md": "text/markdown",
    "ipynb": "application/x-ipynb+json",
    "py": "text/x-python",
    "sql": "application/sql",
    "json": MEDIA["json"],
}
_MOST_NAME = 60


def attached(name: str) -> dict[str, str]:
    """The head of a response whose content a browser saves under this name (RFC 6266)."""
    return {"Content-Disposition": f"attachment; filename*=utf-8''{quote(name, safe='')}"}


def name_of(question: str, ending: str) -> str:
    """A file's name for the answer of a question: its words."""
    words = "-".join(re.findall(r"\w+", question.lower()))[:_MOST_NAME].strip("-")
    return f"{words or 'answer'}.{ending}"
