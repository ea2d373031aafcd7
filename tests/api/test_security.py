"""Who may do what: sign-in, CSRF, headers, and an API that never answers with a stack trace."""

import json

import pytest
from demo.walk import Visitor
from tests.api.conftest import House, refusal
from tests.support.cluster import ROOT

from flaneur.api.app import openapi_document


def test_nothing_is_shown_without_signing_in(house: House) -> None:
    client = house.app.test_client()
    for path in ("/api/yard", "/api/jobs/1", "/api/jobs/1/report.pdf", "/api/jobs/1/archive.json"):
        answer = client.get(path)
        assert answer.status_code == 401
        assert answer.get_json()["message"] == "You are not signed in."


def test_a_wrong_password_and_an_unknown_login_are_refused_alike(house: House) -> None:
    client = house.app.test_client()
    token = client.get("/api/session").get_json()["csrf"]
    told = [
        client.post(
            "/api/session",
            json={"login": login, "password": "wrong"},
            headers={"X-CSRFToken": token},
        )
        for login in ("ivo", "nobody")
    ]
    assert [t.status_code for t in told] == [403, 403]
    assert {**told[0].get_json(), "request": ""} == {**told[1].get_json(), "request": ""}


def test_passwords_are_kept_as_argon2(house: House) -> None:
    with house.engine.connect() as connection:
        hashes = [
            row[0] for row in connection.exec_driver_sql("SELECT password_hash FROM user_account")
        ]
    assert all(h.startswith("$argon2id$") for h in hashes)


def test_a_change_without_the_token_is_refused(house: House, visitor: Visitor) -> None:
    answer = visitor.client.post("/api/jobs", json={"unit_id": house.unit_id})
    assert answer.status_code == 400
    assert "out of date" in answer.get_json()["message"]


def test_signing_out_ends_the_session(visitor: Visitor) -> None:
    visitor.send("DELETE", "/api/session")
    assert visitor.client.get("/api/yard").status_code == 401


def test_every_answer_carries_the_headers(visitor: Visitor) -> None:
    headers = visitor.client.get("/api/yard").headers
    assert "default-src 'self'" in headers["Content-Security-Policy"]
    assert (
        "script" not in headers["Content-Security-Policy"]
        or "unsafe" not in headers["Content-Security-Policy"].split("style-src")[0]
    )
    assert headers["X-Content-Type-Options"] == "nosniff"
    assert headers["X-Frame-Options"] == "SAMEORIGIN"
    assert headers["Cache-Control"] == "no-store"
    cookie = visitor.client.get_cookie("flaneur_session")
    assert cookie is not None
    assert cookie.http_only


@pytest.mark.parametrize(
    ("method", "path", "body"),
    [
        ("GET", "/api/jobs/99999999999999999999", None),
        ("GET", "/api/jobs/2147483647", None),
        ("GET", "/api/nothing", None),
        ("POST", "/api/jobs", {"unit_id": 99999999999}),
        ("POST", "/api/jobs", {"unit_id": False}),
        ("POST", "/api/jobs", {"unit_id": 1, "extra": 2}),
        ("POST", "/api/jobs", {}),
        ("PUT", "/api/jobs/1/intake", {"version": "one"}),
        ("PUT", "/api/jobs/1/intake", {"version": 1, "complaint": "x" * 5000}),
        ("POST", "/api/jobs/1/readings/cam", {"version": 1, "cam": 5}),
    ],
)
def test_malformed_requests_get_the_one_error_shape(
    visitor: Visitor, method: str, path: str, body: dict | None
) -> None:
    status, error = refusal(visitor, method, path, body)
    assert 400 <= status < 500
    assert error["message"]
    assert "Traceback" not in json.dumps(error)


def test_a_body_that_is_no_json_is_refused(visitor: Visitor) -> None:
    answer = visitor.client.post(
        "/api/jobs",
        data=b"{broken",
        headers={"X-CSRFToken": visitor.csrf, "Content-Type": "application/json"},
    )
    assert 400 <= answer.status_code < 500
    assert answer.get_json()["message"]


def test_the_committed_openapi_document_is_current() -> None:
    committed = json.loads((ROOT / "docs" / "formats" / "openapi.json").read_text(encoding="utf-8"))
    assert json.loads(json.dumps(openapi_document())) == committed, "run script/openapi"


def test_pages_are_served_and_files_outside_are_not(house: House) -> None:
    client = house.app.test_client()
    with client.get("/jobs/1/bench") as page:
        assert page.status_code == 200
        assert b'<div id="root">' in page.data
    with client.get("/../pyproject.toml") as outside:
        assert b"FLANEUR" not in outside.data
    script = next((ROOT / "web" / "dist" / "assets").glob("*.js")).name
    with client.get(f"/assets/{script}", headers={"Accept-Encoding": "gzip"}) as squeezed:
        assert squeezed.headers["Content-Encoding"] == "gzip"
        assert "immutable" in squeezed.headers["Cache-Control"]
        assert squeezed.headers["X-Content-Type-Options"] == "nosniff"
    with client.get("/") as first:
        assert "no-cache" in first.headers["Cache-Control"]


def test_a_part_of_a_form_without_a_name_breaks_nothing(visitor: Visitor) -> None:
    body = b"--x\r\nContent-Disposition: form-data\r\n\r\nsail\r\n--x--\r\n"
    headers = {"X-CSRFToken": visitor.csrf, "Content-Type": "multipart/form-data; boundary=x"}
    answer = visitor.client.post("/api/import", data=body, headers=headers)
    assert answer.status_code == 422
    assert answer.get_json()["message"]
