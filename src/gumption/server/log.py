"""The log: a JSON object a line, in files that take each other's place; no line is long, and none tells data."""

from __future__ import annotations

import datetime as dt
import json
import logging
import traceback
from logging.handlers import RotatingFileHandler
from pathlib import Path

MOST_BYTES = 4_000
"""Bytes of a line."""
_OURS = "/gumption/"
FILE_BYTES, FILES = 5_000_000, 5


class AsJson(logging.Formatter):
    """What happened, when and where. Of an exception its kind and where it arose: its message may hold values."""

    def format(self, record: logging.LogRecord) -> str:
        told: dict[str, object] = {
            "at": dt.datetime.fromtimestamp(record.created, dt.UTC).isoformat(timespec="milliseconds"),
            "level": record.levelname,
            "by": record.name,
            "what": record.getMessage()[:1_000],
        }
        record = portable(record)
        kept = record.__dict__
        if "error" in kept:
            told |= {"error": kept["error"], "trace": list(kept["trace"])}
        line = json.dumps(told, ensure_ascii=True)
        trace = told.get("trace")
        while len(line) > MOST_BYTES and isinstance(trace, list) and trace:
            # What is nearest to the fault stands last.
            del trace[: max(len(trace) // 4, 1)]
            line = json.dumps(told, ensure_ascii=True)
        if len(line) > MOST_BYTES:
            told["what"] = str(told["what"])[:200]
            line = json.dumps(told, ensure_ascii=True)
        return line


def frames(error: BaseException) -> list[str]:
    """Where an error arose, from the outermost of our own calls inwards, and where it ended."""
    whole = traceback.extract_tb(error.__traceback__)
    own = [f for f in whole[:-1] if _OURS in f.filename]
    return [f"{f.filename.rpartition(_OURS)[2]}:{f.lineno} {f.name}" for f in [*own, *whole[-1:]]]


def portable(record: logging.LogRecord) -> logging.LogRecord:
    """The record without objects: it can go to another process, and tells of an exception what the log may tell."""
    error = record.exc_info[1] if record.exc_info else None
    if error is not None:
        record.error, record.trace = _kinds(error), [*frames(error), *error.__dict__.get("trace", ())]
    record.msg, record.args, record.exc_info, record.exc_text = record.getMessage(), None, None, None
    return record


def _kinds(error: BaseException) -> str:
    """The kind of an error, and of what caused it."""
    kinds: list[str] = []
    at: BaseException | None = error
    while at is not None and len(kinds) < 5:
        kinds.append(type(at).__qualname__)
        at = at.__cause__ or at.__context__
    return " from ".join(kinds)


def keep_log(folder: Path) -> None:
    """Write what is logged to files in the folder, and warnings to the terminal as well."""
    folder.mkdir(parents=True, exist_ok=True)
    kept = RotatingFileHandler(folder / "gumption.log", maxBytes=FILE_BYTES, backupCount=FILES, encoding="utf-8")
    kept.setFormatter(AsJson())
    shown = logging.StreamHandler()
    shown.setLevel(logging.WARNING)
    shown.setFormatter(AsJson())
    logging.basicConfig(level=logging.INFO, handlers=[kept, shown], force=True)
    for chatty in ("httpx", "httpcore", "urllib3"):
        logging.getLogger(chatty).setLevel(logging.WARNING)
