"""The API's description as JSON: `python -m gumption.server.openapi > web/openapi.json`."""

from __future__ import annotations

import json
from unittest.mock import MagicMock

from gumption.server.app import create_app


def description() -> str:
    """The OpenAPI document, as it is committed for the front end's types."""
    return json.dumps(create_app(MagicMock()).openapi(), indent=1, ensure_ascii=False) + "\n"


if __name__ == "__main__":
    print(description(), end="")
