"""flaneur certificate FOLDER NAME …: the shop's own certificate, so that tablets reach the server
by HTTPS without anybody's help from outside.
"""

import argparse
import ipaddress
import os
from datetime import UTC, datetime, timedelta
from pathlib import Path

from cryptography import x509
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.oid import ExtendedKeyUsageOID, NameOID

from flaneur.core.errors import RecordError

SHOP_YEARS, SERVER_DAYS = 10, 820  # browsers take no server certificate for longer than that
AUTHORITY = "Flaneur, this shop's own certificates"
SHOP, SHOP_KEY = "shop.crt", "shop.key"
SERVER, SERVER_KEY = "server.crt", "server.key"


def make(folder: Path, names: list[str]) -> None:
    """Write a server's certificate for these host names and addresses, signed by the shop's own
    authority, which is made the first time and kept. Raises RecordError for a name that is none.
    """
    others = x509.SubjectAlternativeName([_name(name) for name in names])
    folder.mkdir(parents=True, exist_ok=True)
    if not (folder / SHOP_KEY).exists():
        _authority(folder)
    key = serialization.load_pem_private_key((folder / SHOP_KEY).read_bytes(), None)
    shop = x509.load_pem_x509_certificate((folder / SHOP).read_bytes())
    own = ec.generate_private_key(ec.SECP256R1())
    usage = x509.ExtendedKeyUsage([ExtendedKeyUsageOID.SERVER_AUTH])
    made = (
        _begun(names[0], timedelta(days=SERVER_DAYS))
        .issuer_name(shop.subject)
        .public_key(own.public_key())
        .add_extension(others, critical=False)
        .add_extension(x509.BasicConstraints(ca=False, path_length=None), critical=True)
        .add_extension(usage, critical=False)
        .sign(key, hashes.SHA256())  # type: ignore[arg-type]
    )
    _write(folder / SERVER_KEY, _pem(own), is_secret=True)
    _write(folder / SERVER, made.public_bytes(serialization.Encoding.PEM), is_secret=False)


def _name(name: str) -> x509.GeneralName:
    try:
        return x509.IPAddress(ipaddress.ip_address(name))
    except ValueError:
        pass
    try:
        return x509.DNSName(name)
    except ValueError as error:
        raise RecordError(
            "This is no host name.", read=name, expected="a name or address as tablets type it"
        ) from error


def _called(name: str) -> x509.Name:
    return x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, name[:64])])


def _begun(name: str, lasts: timedelta) -> x509.CertificateBuilder:
    now = datetime.now(UTC)
    return (
        x509.CertificateBuilder()
        .subject_name(_called(name))
        .serial_number(x509.random_serial_number())
        .not_valid_before(now - timedelta(hours=1))
        .not_valid_after(now + lasts)
    )


def _authority(folder: Path) -> None:
    key = ec.generate_private_key(ec.SECP256R1())
    made = (
        _begun(AUTHORITY, timedelta(days=365 * SHOP_YEARS))
        .issuer_name(_called(AUTHORITY))
        .public_key(key.public_key())
        .add_extension(x509.BasicConstraints(ca=True, path_length=0), critical=True)
        .sign(key, hashes.SHA256())
    )
    _write(folder / SHOP_KEY, _pem(key), is_secret=True)
    _write(folder / SHOP, made.public_bytes(serialization.Encoding.PEM), is_secret=False)


def _pem(key: ec.EllipticCurvePrivateKey) -> bytes:
    return key.private_bytes(
        serialization.Encoding.PEM,
        serialization.PrivateFormat.PKCS8,
        serialization.NoEncryption(),
    )


def _write(path: Path, content: bytes, is_secret: bool) -> None:
    path.unlink(missing_ok=True)
    mode = 0o600 if is_secret else 0o644
    with os.fdopen(os.open(path, os.O_WRONLY | os.O_CREAT | os.O_EXCL, mode), "wb") as out:
        out.write(content)


def certificate(options: argparse.Namespace) -> int:
    """Make or renew the server's certificate, and say where it lies."""
    make(options.folder, options.name)
    folder = options.folder.resolve()
    print(f"For the server: FLANEUR_CERTIFICATE={folder / SERVER}")
    print(f"                FLANEUR_CERTIFICATE_KEY={folder / SERVER_KEY}")
    print(f"For the tablets: {folder / SHOP} (docs/network.md says how they trust it)")
    return 0
