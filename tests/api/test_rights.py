"""Every route for every role, from the one table of rights; and errors that everybody gets in one
shape.
"""

import re
from collections.abc import Iterator

import pytest
from demo.depot import PASSWORD
from demo.walk import Visitor
from flask.testing import FlaskClient
from sqlalchemy import text
from tests.api.conftest import (
    House,
    build,
    capture,
    refusal,
    released,
    turn_by_hand,
    version_of,
    work_bench,
)
from tests.support.cluster import Cluster

from flaneur.api.app import openapi_document
from flaneur.api.rights import ALL, LEADS, RIGHTS, Role
from flaneur.core.faults.model import Faults
from flaneur.simulation.server import Server

LOGINS = {None: "", Role.TECHNICIAN: "ivo", Role.LEAD: "sunna"}


@pytest.fixture(scope="module")
def open_house(cluster: Cluster, box: Server) -> Iterator[House]:
    found = build(cluster.new_database(), box)
    yield found
    found.close()


def client_of(house: House, role: Role | None) -> tuple[FlaskClient, str]:
    if role is not None:
        visitor = house.visitor(LOGINS[role])
        return visitor.client, visitor.csrf
    client = house.app.test_client()
    return client, client.get("/api/session").get_json()["csrf"]


def routes(house: House) -> list[tuple[str, str, str]]:
    """Endpoint, method and address of every route, with ids of nothing in them."""
    found = []
    for rule in house.app.url_map.iter_rules():
        path = re.sub(r"<int[^>]*>", "59", rule.rule)
        path = re.sub(r"<any\((\w+)[^>]*>", r"\1", path)
        path = re.sub(r"<[^>]*>", "csv", path)
        found += [
            (rule.endpoint, method, path)
            for method in sorted((rule.methods or set()) - {"HEAD", "OPTIONS"})
        ]
    return found


def test_every_route_is_in_the_table_and_nothing_else(open_house: House) -> None:
    known = {
        endpoint for endpoint, _, _ in routes(open_house) if not endpoint.startswith("openapi_")
    }
    assert known == {what for what in RIGHTS if not what.startswith("act:")}
    assert {
        what for what, roles in RIGHTS.items() if roles == LEADS and not what.startswith("act:")
    } == {
        "handover.sign",
        "after.add",
        "books.adopt",
        "keys.add_key",
        "keys.remove_key",
        "books.take_in",
        "shop.change_shop",
        "shop.change_rates",
        "shop.change_bands",
        "shop.change_keeping",
        "verdict.decide",
        "estimate.give_go",
        "stores.read_list",
        "stores.keep_list",
        *(
            f"units.{act}_{what}"
            for act in ("add", "change")
            for what in ("unit", "engine", "place")
        ),
        *("units.mount_engine", "units.take_engine_off", "units.preview_list", "units.take_list"),
        *(f"people.{act}" for act in ("get_people", "add_person", "give_role", "deactivate")),
        "people.reactivate",
        "people.reset_password",
    }


@pytest.mark.parametrize("role", [None, *Role])
def test_every_route_for_every_role(open_house: House, role: Role | None) -> None:
    wrong: list[str] = []
    client, token = client_of(open_house, role)
    for endpoint, method, path in routes(open_house):
        if endpoint in ("session.sign_out", "session.sign_in"):
            continue
        body = {} if method != "GET" else None
        with client.open(path, method=method, json=body, headers={"X-CSRFToken": token}) as answer:
            status = answer.status_code
        allowed = RIGHTS.get(endpoint, frozenset())
        if allowed is None or (role is not None and role in allowed):
            fits = status not in (401, 403) and status < 500
        else:
            fits = status == (401 if role is None else 403)
        if not fits:
            wrong.append(f"{method} {path} as {role}: {status}")
    assert wrong == []


def test_a_role_nobody_knows_may_nothing(open_house: House) -> None:
    with open_house.owner.begin() as connection:
        connection.execute(
            text("ALTER TABLE user_account DROP CONSTRAINT user_account_role_is_known")
        )
        connection.execute(text("UPDATE user_account SET role = 'guest' WHERE login = 'ivo'"))
    client = open_house.app.test_client()
    token = client.get("/api/session").get_json()["csrf"]
    token = client.post(
        "/api/session", json={"login": "ivo", "password": PASSWORD}, headers={"X-CSRFToken": token}
    ).get_json()["csrf"]
    assert client.get("/api/yard").status_code == 403
    with open_house.owner.begin() as connection:
        connection.execute(text("UPDATE user_account SET role = 'technician' WHERE login = 'ivo'"))


def test_only_a_lead_takes_back_what_a_lead_decided(
    house: House, visitor: Visitor, job: int
) -> None:
    house.hide(Faults(elongation_pct={"chain_b": 0.95}))
    capture(visitor, job)
    work_bench(visitor, job, ["tensioner_b"])
    turn_by_hand(visitor, job)
    capture(visitor, job, "after")
    lead = house.visitor("sunna")
    reason = {"override_reason": "the island needs the boat tonight"}
    assert (
        refusal(
            visitor,
            "POST",
            f"/api/jobs/{job}/proof/release",
            {"version": version_of(visitor, job), **reason},
        )[0]
        == 422
    )
    lead.change(job, "POST", "/proof/release", reason)
    assert not visitor.send("GET", f"/api/jobs/{job}")["can_undo"]
    status, error = refusal(
        visitor, "POST", f"/api/jobs/{job}/undo", {"version": version_of(visitor, job)}
    )
    assert (status, error["message"]) == (403, "Only a lead technician may do this.")
    assert visitor.send("GET", f"/api/jobs/{job}/proof")["is_released"]
    lead.change(job, "POST", "/undo")
    assert not visitor.send("GET", f"/api/jobs/{job}/proof")["is_released"]


def test_a_release_with_every_condition_met_is_anybodys_to_undo(visitor: Visitor, job: int) -> None:
    released(visitor, job)
    assert visitor.send("GET", f"/api/jobs/{job}")["can_undo"]
    visitor.change(job, "POST", "/undo")


@pytest.mark.parametrize(
    ("kind", "body", "status"),
    [
        ("text/plain", b"x", 415),
        ("application/x-www-form-urlencoded", b"a=1", 415),
        ("multipart/form-data", b"x", 415),
        ("", b"{}", 415),
        ("application/json", b"{bad", 400),
        ("application/json", b"[" * 100_000, 400),
        ("application/json", b"\xff\xfe", 400),
        ("application/json", b"[1]", 422),
        ("application/json", b'{"complaint": "a\\u0000b", "version": 2}', 422),
        ("application/json", b'{"complaint": "\\ud800", "version": 2}', 422),
        ("application/json", b'{"complaint": "x", "version": 1e400}', 422),
        ("application/json", b'{"complaint": "x", "version": true}', 422),
    ],
)
def test_a_body_of_the_wrong_kind_is_told_so(
    visitor: Visitor, job: int, kind: str, body: bytes, status: int
) -> None:
    answer = visitor.client.put(
        f"/api/jobs/{job}/intake",
        data=body,
        content_type=kind,
        headers={"X-CSRFToken": visitor.csrf},
    )
    assert answer.status_code == status, answer.text
    found = answer.get_json()
    assert found["message"]
    assert found["request"] == answer.headers["X-Request-Number"]
    assert version_of(visitor, job) == 2


def test_an_error_has_a_number_that_the_log_has_too(
    house: House, visitor: Visitor, caplog: pytest.LogCaptureFixture
) -> None:
    def broken() -> None:
        raise ZeroDivisionError("secret-value")

    house.app.view_functions["yard.yard"] = broken
    answer = visitor.client.get("/api/yard")
    error = answer.get_json()
    assert (answer.status_code, error["code"]) == (500, "broken")
    assert "secret" not in str(error)
    assert f"request {error['request']}" in caplog.text


def test_what_was_typed_stays_out_of_the_log(
    house: House, visitor: Visitor, job: int, caplog: pytest.LogCaptureFixture
) -> None:
    with house.owner.begin() as connection:
        connection.exec_driver_sql("ALTER TABLE job ADD CONSTRAINT never CHECK (version < 3)")
    body, headers = {"complaint": "a private matter", "version": 2}, {"X-CSRFToken": visitor.csrf}
    answer = visitor.client.put(f"/api/jobs/{job}/intake", json=body, headers=headers)
    assert answer.status_code == 500
    assert "never" in caplog.text
    assert "private matter" not in caplog.text
    assert "Failing row" not in caplog.text


def test_the_document_says_what_is_true() -> None:
    document = openapi_document()
    paths = document["paths"]
    assert isinstance(paths, dict)
    intake = paths["/api/jobs/{job_id}/intake"]["put"]
    assert set(intake["responses"]) >= {
        "200",
        "400",
        "401",
        "403",
        "404",
        "405",
        "409",
        "413",
        "415",
        "422",
        "503",
    }
    assert "429" in paths["/api/session"]["post"]["responses"]
    assert "502" in paths["/api/jobs/{job_id}/captures/box"]["post"]["responses"]
    assert (
        "application/pdf"
        in paths["/api/jobs/{job_id}/report.pdf"]["get"]["responses"]["200"]["content"]
    )
    assert "multipart/form-data" in paths["/api/import"]["post"]["requestBody"]["content"]
    assert "ValidationError" not in str(document["components"])
    assert RIGHTS["yard.yard"] == ALL


def test_a_method_an_address_does_not_take_says_which_it_takes(visitor: Visitor, job: int) -> None:
    answer = visitor.client.delete(f"/api/jobs/{job}/intake", headers={"X-CSRFToken": visitor.csrf})
    assert answer.status_code == 405
    assert "PUT" in answer.headers["Allow"]
    assert answer.get_json()["request"]


@pytest.mark.parametrize(
    "path", ["/live/command", "/live/record", "/live/stop", "/captures/box", "/logs/sweep"]
)
def test_a_job_that_is_not_there_is_said_before_any_device_is_asked(
    visitor: Visitor, path: str
) -> None:
    bodies = {
        "/captures/box": {"version": 1},
        "/logs/sweep": {"version": 1, "phasers": ["phaser_a"], "oil": "hot"},
    }
    assert refusal(visitor, "POST", f"/api/jobs/99{path}", bodies.get(path, {}))[0] == 404


def test_a_request_under_way_at_sign_out_does_not_bring_the_person_back(visitor: Visitor) -> None:
    assert "Set-Cookie" not in visitor.client.get("/api/yard").headers
    assert (
        visitor.client.delete("/api/session", headers={"X-CSRFToken": visitor.csrf}).status_code
        == 200
    )
    assert visitor.client.get("/api/yard").status_code == 401
