"""Far more clients at once than there are connections to the database: none is turned away, none is lost."""

import asyncio

import httpx
from sqlalchemy import Engine

from inclinum.api.app import create_app
from tests.serving import served

CLIENTS = 256
WHO = {"x-acting-person": "Ines%20Tarrow"}


def test_256_clients_at_once(engine: Engine) -> None:
    async def ask(address: str, job_id: str) -> list[int]:
        async def one(n: int) -> list[int]:
            async with httpx.AsyncClient(
                base_url=address,
                timeout=60,
                trust_env=False,
                verify=False,
                headers=WHO,
            ) as client:
                view = (await client.get(f"/api/jobs/{job_id}")).json()
                if n % 32 == 0:
                    prediction = [(await client.post("/api/predict", json=view["job"])).status_code]
                    assert prediction == [200]
                    return []
                assert (await client.get("/api/shop")).status_code == 200
                section = view["job"]["brief"] | {"purpose": f"count {n}"}
                body = {"kind": "car", "version": view["versions"]["brief"], "section": section}
                answer = await client.put(f"/api/jobs/{job_id}/brief", json=body)
                assert answer.status_code in (200, 409), answer.text
                return [n] if answer.status_code == 200 else []

        return [n for part in await asyncio.gather(*(one(n) for n in range(CLIENTS))) for n in part]

    with served(create_app(engine)) as address, httpx.Client(base_url=address, trust_env=False) as client:
        listed = client.get("/api/jobs").json()["items"]
        job_id = next(j["id"] for j in listed if j["kind"] == "car" and not j["signed_off"])
        saved = asyncio.run(ask(address, job_id))
        assert saved
        view = client.get(f"/api/jobs/{job_id}").json()
        # Each acknowledged save counted the version up by one, and one of them is what stands.
        assert view["versions"]["brief"] == 1 + len(saved)
        assert view["job"]["brief"]["purpose"] in {f"count {n}" for n in saved}
