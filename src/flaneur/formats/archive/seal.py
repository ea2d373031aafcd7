"""The depot's seal: a statement of what a signed job is, signed with the depot's Ed25519 key (RFC
8032).
"""

from typing import Annotated, Literal

from cryptography.exceptions import InvalidSignature
from cryptography.hazmat.primitives.asymmetric.ed25519 import Ed25519PrivateKey, Ed25519PublicKey
from cryptography.hazmat.primitives.serialization import (
    Encoding,
    NoEncryption,
    PrivateFormat,
    PublicFormat,
    load_pem_private_key,
)
from pydantic import AwareDatetime, BaseModel, ConfigDict, Field

from flaneur.core.errors import RecordError
from flaneur.core.record.bounds import Written
from flaneur.core.record.canonical import canonical

Hex64 = Annotated[str, Field(pattern=r"^[0-9a-f]{64}\z")]


class Statement(BaseModel):
    """What the depot says with its seal: this job, this journal, these rows, this report, this
    book, by whom and when.
    """

    model_config = ConfigDict(extra="forbid", frozen=True)

    format: Literal["flaneur-seal/1"] = "flaneur-seal/1"
    depot: Annotated[str, Written(120)]
    number: Annotated[str, Written(40)]
    head: Hex64
    content_sha256: Hex64
    book_sha256: Hex64
    report_sha256: Hex64
    pdf_sha256: Hex64
    signed_by: Annotated[str, Written(120)]
    signed_at: AwareDatetime


class AddendumStatement(BaseModel):
    """What is added to a signed report, and signed by itself: to which job, under the head its
    report was sealed with, as which addition, in whose words.
    """

    model_config = ConfigDict(extra="forbid", frozen=True)

    format: Literal["flaneur-addendum/1"] = "flaneur-addendum/1"
    depot: Annotated[str, Written(120)]
    number: Annotated[str, Written(40)]
    head: Hex64
    place: Annotated[int, Field(ge=1, le=10_000)]
    text: Annotated[str, Written(4000, has_lines=True)]
    by: Annotated[str, Written(120)]
    at: AwareDatetime


class Seal(BaseModel):
    """A statement, the depot's public key, and its signature over the statement's canonical
    spelling.
    """

    model_config = ConfigDict(extra="forbid", frozen=True)

    statement: Statement
    public_key: Hex64
    signature: Annotated[str, Field(pattern=r"^[0-9a-f]{128}\z")]

    @property
    def holds(self) -> bool:
        """Whether the signature is this key's over this statement."""
        return is_signed(self.public_key, self.signature, canonical(self.statement.model_dump()))


def new_key() -> str:
    """A new signing key as PEM text. Whoever has it can sign as this depot."""
    return (
        Ed25519PrivateKey.generate()
        .private_bytes(Encoding.PEM, PrivateFormat.PKCS8, NoEncryption())
        .decode()
    )


def private_key(pem: str) -> Ed25519PrivateKey:
    """The key in a PEM text. Raises RecordError for anything else."""
    try:
        key = load_pem_private_key(pem.encode(), None)
    except (ValueError, TypeError) as error:
        raise RecordError(
            "The signing key cannot be read.",
            read=str(error)[:80],
            expected="an Ed25519 key as PEM",
        ) from error
    if not isinstance(key, Ed25519PrivateKey):
        raise RecordError(
            "The signing key is of another kind.",
            read=type(key).__name__,
            expected="an Ed25519 key as PEM",
        )
    return key


def public_key_of(pem: str) -> str:
    """The public key that belongs to a signing key, 64 hexadecimal digits."""
    return private_key(pem).public_key().public_bytes(Encoding.Raw, PublicFormat.Raw).hex()


def sign_text(pem: str, text: str) -> str:
    """Signature over a text, 128 hexadecimal digits."""
    return private_key(pem).sign(text.encode()).hex()


def is_signed(public_key: str, signature: str, text: str) -> bool:
    """Whether ``signature`` is that of ``public_key`` over ``text``."""
    try:
        Ed25519PublicKey.from_public_bytes(bytes.fromhex(public_key)).verify(
            bytes.fromhex(signature), text.encode()
        )
    except (InvalidSignature, ValueError):
        return False
    return True


def sign_statement(pem: str, statement: Statement) -> Seal:
    """Seal a statement."""
    signature = sign_text(pem, canonical(statement.model_dump()))
    return Seal(statement=statement, public_key=public_key_of(pem), signature=signature)
