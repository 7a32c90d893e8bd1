"""``python -m inclinum.api``: print the API's OpenAPI schema, from which the client's types are made."""

import json

from inclinum.api.app import create_app

print(json.dumps(create_app(None).openapi(), indent=1, ensure_ascii=False))
