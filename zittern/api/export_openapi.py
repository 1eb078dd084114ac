"""Print the OpenAPI description, from which the page's types are generated (`make types`)."""

from __future__ import annotations

import json
import tempfile
from pathlib import Path

from zittern.api.app import make_app
from zittern.settings import Settings

__all__ = ["describe"]


def describe() -> str:
    """Return the description as JSON text, the same for the same code."""
    with tempfile.TemporaryDirectory() as folder:
        app = make_app(Settings(data=Path(folder)))
        text = json.dumps(app.openapi(), indent=1, sort_keys=True) + "\n"
        app.state.context.library.close()
    return text


if __name__ == "__main__":
    print(describe(), end="")
