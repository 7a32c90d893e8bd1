"""Address under which the application answers in tests, since it refuses others; the demo job, and who acts."""

from urllib.parse import quote

OURS = "http://127.0.0.1"
JOB = "van-2026-washed-out-track"
WHO = {"x-acting-person": quote("Ines Tarrow")}
