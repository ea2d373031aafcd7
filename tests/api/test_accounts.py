"""Accounts: made, changed, ended; sessions that end on the server; guesses that wait."""

import subprocess
from datetime import timedelta
from typing import Any

import pytest
from demo.depot import PASSWORD
from demo.walk import Visitor
from sqlalchemy import text
from tests.api.conftest import House, build, refusal
from tests.support.cluster import ROOT

from flaneur.cli.commands import main
from flaneur.simulation.server import Server

GOOD = "gantry otter seven brass"


def person(lead: Visitor, login: str) -> dict[str, Any]:
    return next(p for p in lead.send("GET", "/api/people")["people"] if p["login"] == login)


def sign_in(house: House, login: str, password: str, address: str = "10.0.0.7") -> Any:
    client = house.app.test_client()
    token = client.get("/api/session").get_json()["csrf"]
    return client.post(
        "/api/session",
        json={"login": login, "password": password},
        headers={"X-CSRFToken": token},
        environ_base={"REMOTE_ADDR": address},
    )


def test_a_new_account_comes_in_by_a_password_it_must_replace(house: House) -> None:
    lead = house.visitor("sunna")
    new = {"login": "pell", "name": "Pell Ardmoor", "role": "technician"}
    made = lead.send("POST", "/api/people", new)
    assert made["one_time_of"] == "Pell Ardmoor"
    told = made["one_time_password"]
    assert lead.send("GET", "/api/people")["one_time_password"] is None
    pell = Visitor.__new__(Visitor)
    pell.client, pell.versions = house.app.test_client(), {}
    pell.csrf = pell.client.get("/api/session").get_json()["csrf"]
    me = pell.send("POST", "/api/session", {"login": "pell", "password": told})
    pell.csrf = me["csrf"]
    assert me["is_password_due"]
    assert pell.client.get("/api/yard").get_json()["code"] == "password_due"
    change = "/api/session/password"
    status, error = refusal(pell, "PUT", change, {"old": told, "new": "pell ardmoor"})
    assert (status, error["code"]) == (422, "account_refused")
    assert not pell.send("PUT", change, {"old": told, "new": GOOD})["is_password_due"]
    assert pell.client.get("/api/yard").status_code == 200
    assert refusal(lead, "POST", "/api/people", new)[1]["message"] == "This login is taken."


def test_whoever_leaves_is_out_at_once_and_their_work_stands(house: House, job: int) -> None:
    lead, ivo = house.visitor("sunna"), house.visitor("ivo")
    assert ivo.client.get("/api/yard").status_code == 200
    at = f"/api/people/{person(lead, 'ivo')['id']}"
    lead.send("POST", f"{at}/deactivate", {})
    assert ivo.client.get("/api/yard").status_code == 401
    assert sign_in(house, "ivo", PASSWORD).status_code == 403
    assert lead.send("GET", f"/api/jobs/{job}")["number"]
    told = lead.send("POST", f"{at}/reactivate", {})["one_time_password"]
    assert sign_in(house, "ivo", told).get_json()["is_password_due"]
    acts = [e["act"] for e in lead.send("GET", "/api/people")["events"]]
    assert acts == ["reactivated", "deactivated"]


def test_the_only_lead_stays_one(house: House) -> None:
    lead = house.visitor("sunna")
    mine, ivo = person(lead, "sunna"), person(lead, "ivo")
    assert mine["is_only_lead"]
    for method, act, body in (
        ("POST", "deactivate", {}),
        ("PUT", "role", {"role": "technician"}),
    ):
        status, error = refusal(lead, method, f"/api/people/{mine['id']}/{act}", body)
        assert (status, error["message"]) == (422, "This is the only lead.")
    lead.send("PUT", f"/api/people/{ivo['id']}/role", {"role": "lead"})
    lead.send("PUT", f"/api/people/{mine['id']}/role", {"role": "technician"})
    assert refusal(lead, "GET", "/api/people")[0] == 403


def test_a_copied_cookie_is_worth_nothing_after_sign_out(house: House) -> None:
    ivo = house.visitor()
    copied = ivo.client.get_cookie("flaneur_session")
    assert copied is not None
    ivo.send("DELETE", "/api/session")
    thief = house.app.test_client()
    thief.set_cookie("flaneur_session", copied.value)
    assert thief.get("/api/yard").status_code == 401


@pytest.mark.parametrize(("column", "hours"), [("begun_at", 12), ("seen_at", 4)])
def test_a_session_ends_by_age_and_by_rest(house: House, column: str, hours: int) -> None:
    ivo = house.visitor()
    before = f"UPDATE sign_in SET {column} = now() - :ago"
    for ago, status in ((timedelta(hours=hours - 0.1), 200), (timedelta(hours=hours + 0.1), 401)):
        with house.owner.begin() as connection:
            connection.execute(text(before), {"ago": ago})
        assert ivo.client.get("/api/yard").status_code == status


def test_a_changed_password_ends_the_other_devices(house: House) -> None:
    here, there = house.visitor(), house.visitor()
    for old, new, field in (("wrong", GOOD, "old"), (PASSWORD, PASSWORD, "new")):
        status, error = refusal(here, "PUT", "/api/session/password", {"old": old, "new": new})
        assert (status in (403, 422), error["field"]) == (True, field)
    here.send("PUT", "/api/session/password", {"old": PASSWORD, "new": GOOD})
    assert here.client.get("/api/yard").status_code == 200
    assert there.client.get("/api/yard").status_code == 401
    assert sign_in(house, "ivo", PASSWORD).status_code == 403
    assert sign_in(house, "ivo", GOOD).status_code == 200


def test_guesses_at_one_account_keep_nobody_else_out(house: House) -> None:
    tried = [sign_in(house, "ivo", "wrong") for _ in range(6)]
    assert [t.status_code for t in tried] == [403] * 5 + [429]
    assert 0 < int(tried[-1].headers["Retry-After"]) <= 15
    assert sign_in(house, "ivo", PASSWORD).status_code == 429
    assert sign_in(house, "sunna", PASSWORD).status_code == 200
    assert sign_in(house, "ivo", PASSWORD, "10.0.0.8").status_code == 200


def test_an_empty_depot_takes_its_first_lead_by_the_code(database_url: str, box: Server) -> None:
    house = build(database_url, box, has_unit=False, first_code="4711-brass")
    with house.owner.begin() as connection:
        connection.exec_driver_sql("DELETE FROM user_account")
    client = house.app.test_client()
    me = client.get("/api/session").get_json()
    assert me["is_empty"]
    lead = {"login": "sunna", "name": "Sunna Quill", "password": GOOD}
    headers = {"X-CSRFToken": me["csrf"]}
    wrong = client.post("/api/session/first", json={**lead, "code": "4711"}, headers=headers)
    assert wrong.status_code == 403
    body = {**lead, "code": "4711-brass"}
    made = client.post("/api/session/first", json=body, headers=headers)
    assert (made.status_code, made.get_json()["role"]) == (200, "lead")
    again = client.post("/api/session/first", json=body, headers={"X-CSRFToken": made.json["csrf"]})
    assert again.get_json()["message"] == "This depot has its first lead."
    house.close()


def test_accounts_from_the_console(
    house: House, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    url = house.app.config["SETTINGS"].database_url
    monkeypatch.setenv("FLANEUR_DATABASE_URL", url)

    def user(*words: str) -> str:
        done, said = main(["user", *words]), capsys.readouterr()
        return said.out if done == 0 else said.err

    told = user("add", "pell", "Pell Ardmoor", "--role", "lead").splitlines()[0].split(": ")[1]
    assert sign_in(house, "pell", told).get_json()["role"] == "lead"
    assert "done" in user("role", "pell", "technician")
    assert "done" in user("deactivate", "pell")
    command = [ROOT / "script" / "flaneur", "user", "list"]  # as it is typed
    told = subprocess.run(
        command,
        env={"FLANEUR_DATABASE_URL": url, "PATH": "/usr/bin:/bin"},
        text=True,
        capture_output=True,
    ).stdout
    assert "deactivated  Pell Ardmoor" in told
    assert "There is no such account" in user("reset", "nobody")
