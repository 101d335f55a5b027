"""The API's description as JSON: `python -m gumption.server.openapi > web/openapi.json`."""

from __future__ import annotations

import json
import tempfile
from pathlib import Path
from unittest.mock import MagicMock

from gumption.server.app import Settings, create_app


def description() -> str:
    """The OpenAPI document, as it is committed for the front end's types."""
    with tempfile.TemporaryDirectory() as folder:
        app = create_app(MagicMock(), Settings(Path(folder), None))
        return json.dumps(app.openapi(), indent=1, ensure_ascii=False) + "\n"


if __name__ == "__main__":
    print(description(), end="")
