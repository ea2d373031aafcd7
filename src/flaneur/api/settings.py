"""Settings, each declared once with its unit in its name, its default, and what it is for."""

import os
from dataclasses import dataclass, field, fields
from pathlib import Path
from typing import Any


def _setting(default: Any, meaning: str) -> Any:
    return field(default=default, metadata={"help": meaning})


@dataclass(frozen=True)
class Settings:
    """Read from the environment as FLANEUR_ and the name in capitals."""

    database_url: str = _setting("", "SQLAlchemy URL of the PostgreSQL database")
    secret: str = _setting("", "secret that signs the session cookie")
    signing_key_file: str = _setting(
        "", "file that holds the depot's signing key; without one nothing can be signed"
    )
    depot: str = _setting("This depot", "name of the depot, as its seals and reports give it")
    job_prefix: str = _setting("JOB", "letters that job numbers begin with")
    box_host: str = _setting("127.0.0.1", "address of the capture box")
    box_port: int = _setting(8421, "port of the capture box")
    link_host: str = _setting("127.0.0.1", "address of the vehicle link")
    link_port: int = _setting(8423, "port of the vehicle link")
    photo_limit_bytes: int = _setting(12_000_000, "largest photograph accepted")
    upload_limit_bytes: int = _setting(1_000_000_000, "largest capture file accepted")
    archive_limit_bytes: int = _setting(400_000_000, "largest job file accepted")
    session_hours: int = _setting(12, "hours after which one must sign in again")
    sign_in_per_minute: int = _setting(20, "sign-in tries allowed per minute and address")
    web_dist: str = _setting("web/dist", "folder of the built front end")

    @staticmethod
    def from_environment() -> "Settings":
        """Settings from FLANEUR_* variables; a number that is none is refused by name."""
        values: dict[str, Any] = {}
        for item in fields(Settings):
            text = os.environ.get(f"FLANEUR_{item.name.upper()}")
            if text is not None:
                try:
                    values[item.name] = int(text) if isinstance(item.default, int) else text
                except ValueError as error:
                    raise SystemExit(
                        f"FLANEUR_{item.name.upper()} is {text!r}, expected a whole number."
                    ) from error
        return Settings(**values)

    @property
    def dist(self) -> Path:
        return Path(self.web_dist).resolve()
