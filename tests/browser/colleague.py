"""Somebody else at the same product, who needs no browser."""

from typing import Any

import requests
from demo.depot import PASSWORD


class Colleague:
    """Somebody else at another tablet."""

    def __init__(self, address: str, login: str) -> None:
        self.address, self.session = address, requests.Session()
        self.session.headers["X-CSRFToken"] = self.session.get(
            f"{address}/api/session", timeout=30
        ).json()["csrf"]
        self.session.headers["X-CSRFToken"] = self.send(
            "POST", "/api/session", login=login, password=PASSWORD
        )["csrf"]

    def send(self, method: str, path: str, **body: Any) -> Any:
        answer = self.session.request(method, self.address + path, json=body or None, timeout=60)
        assert answer.status_code == 200, answer.text
        return answer.json()

    def change(self, job: int, method: str, path: str, **body: Any) -> Any:
        version = self.send("GET", f"/api/jobs/{job}")["version"]
        return self.send(method, f"/api/jobs/{job}{path}", version=version, **body)


def own_job(colleague: Colleague, unit: str) -> int:
    """The demo's job on a unit: others may have begun one on it since."""
    jobs = colleague.send("GET", "/api/yard")["jobs"]
    return min(int(j["id"]) for j in jobs if j["tag"] == unit)
