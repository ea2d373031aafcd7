"""What stands before the application knows its addresses and says refusals in its words."""

import re
import ssl
from pathlib import Path

from cryptography import x509

from flaneur.api.app import create_app
from flaneur.api.front import FILES, HEAVY, LIVE, configuration
from flaneur.api.limits import LARGE, WORDS_BYTES, largest_bytes
from flaneur.api.settings import Settings
from flaneur.cli import main


def test_the_proxy_knows_which_addresses_take_files_and_which_are_live() -> None:
    app = create_app(Settings(secret="none"))
    for rule in app.url_map.iter_rules():
        path = re.sub("<[^>]*>", "12", rule.rule)
        takes_files = any(re.search(pattern, path) for pattern in FILES)
        assert takes_files == (rule.endpoint in LARGE), path
        is_live = rule.endpoint.startswith("live.")
        assert bool(re.search(LIVE, path)) == is_live, path
    paths = [re.sub("<[^>]*>", "12", rule.rule) for rule in app.url_map.iter_rules()]
    for pattern in HEAVY:
        assert any(re.search(pattern, path) for path in paths), pattern


def test_its_configuration_has_every_process_and_our_words() -> None:
    settings = Settings(secret="none", port=8555, address="0.0.0.0")
    text = configuration(settings, Path("/data"), web=3, is_root=False)
    assert text.count("/data/web-") == 4  # one of them in place of what takes a while, too
    assert "listen 0.0.0.0:8555 backlog" in text
    assert f"client_max_body_size {WORDS_BYTES};" in text
    assert str(largest_bytes(settings, "captures.capture_from_file")) in text
    assert '"code": "server_away"' in text
    assert "user www-data" not in text
    # All of a job goes to the process that keeps its answers.
    assert "hash $whose consistent;" in text
    whose = re.search(r'"~(\^/api/jobs/[^"]+)" \$job', text)
    assert whose is not None
    found = [re.match(whose[1].replace("?<", "?P<"), f"/api/jobs/{p}") for p in ("12", "12/bench")]
    assert [m and m["job"] for m in found] == ["12", "12"]


def test_a_certificate_of_the_shops_own_is_for_the_names_given(tmp_path: Path) -> None:
    folder = tmp_path / "tls"
    assert main(["certificate", str(folder), "flaneur.workshop", "192.168.4.10"]) == 0
    shop = (folder / "shop.crt").read_bytes()
    assert main(["certificate", str(folder), "other.workshop"]) == 0
    assert (folder / "shop.crt").read_bytes() == shop
    made = x509.load_pem_x509_certificate((folder / "server.crt").read_bytes())
    made.verify_directly_issued_by(x509.load_pem_x509_certificate(shop))
    context = ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER)
    context.load_cert_chain(folder / "server.crt", folder / "server.key")
    assert (folder / "server.key").stat().st_mode & 0o077 == 0
    secure = Settings(secret="none", certificate=str(folder / "server.crt"))
    assert secure.is_secure
    assert "127.0.0.1:8420 ssl" in configuration(secure, Path("/data"), 2, is_root=True)


def test_what_is_too_large_for_its_address_is_refused_before_it_is_read() -> None:
    client = create_app(Settings(secret="none")).test_client()
    length = {"CONTENT_LENGTH": str(WORDS_BYTES + 1)}
    answer = client.post("/api/session", json={}, environ_overrides=length)
    assert (answer.status_code, answer.get_json()["code"]) == (413, "too_large")
