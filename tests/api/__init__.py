"""Address under which the application answers in tests: it refuses others."""

OURS = "http://127.0.0.1"
