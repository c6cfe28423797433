"""Print the API's OpenAPI schema, from which the front end's client is generated: `python -m vane_check.api.schema`."""

import json

from .app import make_app


def schema_text() -> str:
    """The schema as it is kept in front/openapi.json."""
    app = make_app("postgresql://nobody@127.0.0.1:1/none")
    return json.dumps(app.openapi(), indent=1, sort_keys=True) + "\n"


if __name__ == "__main__":
    print(schema_text(), end="")
