"""Who gets in, what is too large, and how every refusal looks."""

import json

import pytest
from fastapi.testclient import TestClient

from inclinum.api.app import create_app
from inclinum.api.errors import Refusal
from inclinum.core.car.job import Job
from inclinum.jobfile import LARGEST_BYTES
from tests.api import JOB, OURS, WHO
from tests.api.test_client import BUILD


def refused(answer) -> str:
    """Its sentence; every refusal has one shape."""
    assert answer.headers["content-type"] == "application/json"
    body = Refusal.model_validate(answer.json())
    assert body.sentence.endswith((".", "?")), body.sentence
    return body.sentence


@pytest.mark.parametrize(
    ("headers", "status"),
    [
        ({"host": "evil.example"}, 421),
        ({"host": "127.0.0.1.evil.example"}, 421),
        ({"host": ""}, 421),
        ({"origin": "http://evil.example"}, 403),
        ({"origin": "null"}, 403),
        ({"origin": "http://127.0.0.1:8700"}, 403),
        ({"sec-fetch-site": "cross-site"}, 403),
    ],
)
def test_a_page_on_another_name_can_do_nothing(client: TestClient, headers: dict[str, str], status: int) -> None:
    answer = client.delete(f"/api/jobs/{JOB}", headers=WHO | headers)
    assert answer.status_code == status
    refused(answer)
    assert client.get(f"/api/jobs/{JOB}").status_code == 200


@pytest.mark.parametrize("host", ["127.0.0.1:8700", "localhost:8700", "LOCALHOST", "[::1]:8700"])
def test_our_own_names_and_pages_are_let_in(client: TestClient, host: str) -> None:
    own = {"host": host, "origin": f"http://{host.lower()}", "sec-fetch-site": "same-origin"}
    assert client.get("/api/shop", headers=own).status_code == 200


def test_every_answer_carries_what_keeps_pages_apart() -> None:
    client = TestClient(create_app(None, BUILD), OURS)
    for address in ("/", "/api/kinds", "/api/nothing", "/nothing.png", "/api/docs"):
        headers = client.get(address).headers
        policy = dict(p.split(" ", 1) for p in headers["content-security-policy"].split("; "))
        assert policy["frame-ancestors"] == "'none'"
        assert not any(word in headers["content-security-policy"] for word in ("unsafe-inline", "unsafe-eval", "*"))
        assert "http" not in headers["content-security-policy"].replace("https:", "")
        assert headers["x-content-type-options"] == "nosniff"
        assert headers["referrer-policy"] == "same-origin"
    page = client.get("/").text
    assert page.count("<script>") == policy["script-src"].count("sha256-") >= 1
    docs = client.get("/api/docs").text
    assert "//" not in docs.replace("<!--", ""), "nothing is loaded from elsewhere"
    for name in ("swagger-ui.css", "swagger-ui-bundle.js", "start.js"):
        assert client.get(f"/docs/{name}").status_code == 200


def test_what_is_too_large_is_refused_before_it_is_parsed(client: TestClient) -> None:
    for address, method in (("/api/predict", "POST"), (f"/api/jobs/{JOB}/plan", "PUT"), ("/api/jobs/import", "POST")):
        answer = client.request(method, address, content=b" " * (LARGEST_BYTES + 1), headers=WHO)
        assert answer.status_code == 413
        refused(answer)

    def endless():
        for _ in range(LARGEST_BYTES // 100_000 + 2):
            yield b" " * 100_000

    assert client.post("/api/predict", content=endless()).status_code == 413, "whatever length was announced, or none"


def crowded(job: Job) -> list[tuple[str, dict]]:
    """Jobs with more of something than anybody needs."""
    whole = json.dumps(job.model_dump(mode="json"))

    def changed(*path: str, to: object) -> dict:
        document = json.loads(whole)
        part = document
        for key in path[:-1]:
            part = part[key]
        part[path[-1]] = to
        return document

    rule = {"quantity": "rise", "value_mm": 30, "text": "rule"}
    tick = {"step": "a", "done_at": "2026-05-04T08:00:00Z", "by": "a"}
    adjuster = {
        "type": "link_length", "name": "a", "outer": "tie_outer", "min_mm": -5, "max_mm": 5, "thread_pitch_mm": 1.5,
    }  # fmt: skip
    return [
        ("brief.local_limits", changed("brief", "local_limits", to=[rule] * 1000)),
        ("vehicle.front.adjusters", changed("vehicle", "front", "adjusters", to=[adjuster] * 200)),
        ("vehicle.front.orientation", changed("vehicle", "front", "orientation", to=["chamfer up"] * 5000)),
        (
            "build.ticks",
            changed("build", "ticks", to=[tick] * 5000),
        ),
    ]


def test_every_list_has_an_end(client: TestClient, in_hand: Job) -> None:
    for path, document in crowded(in_hand):
        answer = client.post("/api/predict", json=document)
        assert answer.status_code == 422, path
        assert answer.json()["complaints"][0]["path"] == path
        refused(answer)
    document = in_hand.model_dump(mode="json") | {f"unknown {n}": n for n in range(1000)}
    prediction = client.post("/api/predict", json=document).json()["complaints"]
    assert len(prediction) == 41
    assert prediction[-1]["sentence"].startswith("960 more")


def bounds(schema: dict, path: str, definitions: dict, seen: set[str]) -> list[str]:
    """Everything in a schema that may be as long as it likes."""
    if "$ref" in schema:
        name = schema["$ref"].rsplit("/", 1)[1]
        if name in seen:
            return []
        seen.add(name)
        return bounds(definitions[name], name, definitions, seen)
    found = [
        b for k in ("anyOf", "oneOf", "allOf") for s in schema.get(k, []) for b in bounds(s, path, definitions, seen)
    ]
    kind = schema.get("type")
    if kind == "array" and "maxItems" not in schema:
        found.append(f"{path}: list")
    if kind == "string" and not schema.keys() & {"maxLength", "enum", "const", "format"}:
        found.append(f"{path}: text")
    if kind == "object" and "properties" not in schema and "maxProperties" not in schema:
        found.append(f"{path}: mapping")
    inner = [(f"{path}[]", s) for s in schema.get("prefixItems", [])]
    inner += [(f"{path}.{k}", s) for k, s in schema.get("properties", {}).items()]
    inner += [(f"{path}[]", s) for k in ("items", "additionalProperties") if isinstance(s := schema.get(k), dict)]
    return found + [b for p, s in inner for b in bounds(s, p, definitions, seen)]


def test_nothing_that_is_taken_in_may_be_as_long_as_it_likes() -> None:
    api = create_app(None).openapi()
    seen: set[str] = set()
    found = []
    for address, operations in api["paths"].items():
        for operation in operations.values():
            for content in operation.get("requestBody", {}).get("content", {}).values():
                found += bounds(content["schema"], address, api["components"]["schemas"], seen)
            found += [
                f"{address}?{p['name']}"
                for p in operation.get("parameters", [])
                for _ in bounds(p["schema"], "", api["components"]["schemas"], set())
            ]
    assert [f for f in found if "/import" not in f] == [], "an import is bounded by its size"


def test_no_odd_text_or_number_is_a_fault_of_ours(client: TestClient) -> None:
    brief = client.get(f"/api/jobs/{JOB}").json()["job"]["brief"]
    for bad in ("a\u0000b", "\ud800"):
        body = json.dumps({"kind": "car", "version": 1, "section": brief | {"purpose": bad}}).encode()
        answer = client.put(f"/api/jobs/{JOB}/brief", content=body, headers=WHO | {"content-type": "application/json"})
        assert answer.status_code == 422
        assert "section.purpose" in refused(answer)
    harmless = json.dumps({"kind": "car", "version": 1, "section": brief | {"purpose": "a \\u0000 in words"}})
    answer = client.put(f"/api/jobs/{JOB}/brief", content=harmless, headers=WHO | {"content-type": "application/json"})
    assert answer.status_code == 200
    for address in (
        "/api/jobs/a%00b", "/api/jobs?words=%00", "/api/jobs/..%2f..", "/api/vehicles/0", "/api/vehicles/abc",
        f"/api/vehicles/{2**31}", f"/api/vehicles/{10**30}/raw", "/api/jobs?limit=0", f"/api/jobs?offset={10**40}",
    ):  # fmt: skip
        answer = client.get(address)
        assert answer.status_code in (404, 422), address
        refused(answer)
    for bad in ({"text": "5", "quantity": "no such"}, {"text": "5", "default_unit": "x" * 19}, {"text": "9" * 60}):
        answer = client.post("/api/entry", json=bad)
        assert answer.status_code in (200, 422), bad
    text = client.get(f"/api/jobs/{JOB}/file").text
    for job_id in (".", ".."):
        renamed = text.replace(f'"id": "{JOB}"', f'"id": "{job_id}"')
        answer = client.post("/api/jobs/import", content=renamed, headers=WHO)
        assert answer.status_code == 422
        assert "job.id" in refused(answer)


def test_methods_addresses_and_our_own_faults_are_told_alike(
    engine, monkeypatch: pytest.MonkeyPatch, caplog: pytest.LogCaptureFixture
) -> None:
    from inclinum.store import shop

    client = TestClient(create_app(engine), OURS, raise_server_exceptions=False)
    wrong = client.patch("/api/shop")
    assert wrong.status_code == 405
    assert "GET" in wrong.headers["allow"]
    refused(wrong)
    assert client.get("/api/vehicles/999999").status_code == 404
    monkeypatch.setattr(shop, "shop_name", lambda session: 1 / 0)
    fault = client.get("/api/shop")
    assert fault.status_code == 500
    body = Refusal.model_validate(fault.json())
    assert body.trouble_id
    assert body.trouble_id in body.sentence
    assert any(body.trouble_id in r.getMessage() and "ZeroDivisionError" in r.getMessage() for r in caplog.records)


def test_a_vehicle_renamed_onto_another_and_titles_twice_at_once(client: TestClient) -> None:
    listed = client.get("/api/vehicles").json()["items"]
    one, other = [v for v in listed if v["kind"] == "car" and v["plate"]][:2]
    view = client.get(f"/api/vehicles/{one['id']}").json()
    renamed = view["vehicle"] | {"name": other["name"], "plate": other["plate"]}
    answer = client.put(
        f"/api/vehicles/{one['id']}", json={"version": view["version"], "vehicle": renamed}, headers=WHO
    )
    assert answer.status_code == 409
    assert "already a vehicle" in refused(answer)

    from concurrent.futures import ThreadPoolExecutor

    # Whoever comes second may meet the first at either of a job's unique keys: several titles, to meet both.
    for n in range(5):
        body = {"title": f"Twice at once {n}", "vehicle_id": one["id"]}
        with ThreadPoolExecutor(8) as pool:
            made = list(pool.map(lambda _, b=body: client.post("/api/jobs", json=b, headers=WHO), range(8)))
        assert [m.text for m in made if m.status_code != 200] == []
        assert len({m.json()["id"] for m in made}) == 8


def test_a_signature_is_an_act(client: TestClient) -> None:
    done = "van-2025-front-springs"
    prove = client.get(f"/api/jobs/{done}").json()["job"]["prove"]
    assert prove["sign_off"]
    again = client.post(f"/api/jobs/{done}/sign-off", json={"version": 1, "note": ""}, headers=WHO)
    assert "signed off already" in refused(again)
    taken = client.put(
        f"/api/jobs/{done}/prove",
        json={"kind": "car", "version": 1, "section": prove | {"sign_off": None}},
        headers=WHO,
    )
    assert "withdraw the signature first" in refused(taken)
    short = client.post(f"/api/jobs/{done}/sign-off/withdraw", json={"version": 1, "reason": "  "}, headers=WHO)
    assert short.status_code == 422
    why = {"version": 1, "reason": "the tape had slipped"}
    assert client.post(f"/api/jobs/{done}/sign-off/withdraw", json=why, headers=WHO).json() == {"version": 2}
    view = client.get(f"/api/jobs/{done}").json()
    assert view["job"]["prove"]["sign_off"] is None
    assert view["history"][-1]["what"] == f"withdrew the sign-off of {prove['sign_off']['by']}: the tape had slipped"
    forged = prove | {"sign_off": prove["sign_off"] | {"by": "Somebody else"}}
    answer = client.put(f"/api/jobs/{done}/prove", json={"kind": "car", "version": 2, "section": forged}, headers=WHO)
    assert "set by signing off" in refused(answer)
    signed = client.post(
        f"/api/jobs/{done}/sign-off", json={"version": 2, "note": "again", "despite": "ticked on paper"}, headers=WHO
    )
    assert signed.json() == {"version": 3}
    view = client.get(f"/api/jobs/{done}").json()
    assert view["job"]["prove"]["sign_off"]["by"] == "Ines Tarrow"
    assert "signed off: within the prediction; again" in view["history"][-1]["what"]
