"""Settings, each declared once with its unit in its name, its default, and what it is for."""

from pathlib import Path

from pydantic import Field, ValidationError
from pydantic_settings import BaseSettings, SettingsConfigDict

from flaneur.jobs.room import RESERVE_BYTES


class Settings(BaseSettings):
    """Read from the environment as FLANEUR_ and the name in capitals."""

    model_config = SettingsConfigDict(env_prefix="FLANEUR_", frozen=True, extra="forbid")

    database_url: str = Field(default="", description="SQLAlchemy URL of the PostgreSQL database")
    secret: str = Field(default="", description="secret that signs the session cookie")
    signing_key_file: str = Field(
        default="",
        description="file that holds the depot's signing key; without one nothing can be signed",
    )
    depot: str = Field(
        default="This depot", description="name of the depot, as its seals and reports give it"
    )
    job_prefix: str = Field(default="JOB", description="letters that job numbers begin with")
    box_host: str = Field(default="127.0.0.1", description="address of the capture box")
    box_port: int = Field(default=8421, description="port of the capture box")
    link_host: str = Field(default="127.0.0.1", description="address of the vehicle link")
    link_port: int = Field(default=8423, description="port of the vehicle link")
    wrench_host: str = Field(default="127.0.0.1", description="address of the torque–angle wrench")
    wrench_port: int = Field(default=8424, description="port of the torque–angle wrench")
    photo_limit_bytes: int = Field(default=12_000_000, description="largest photograph accepted")
    upload_limit_bytes: int = Field(
        default=1_000_000_000, description="largest capture file accepted"
    )
    archive_limit_bytes: int = Field(default=400_000_000, description="largest job file accepted")
    session_hours: float = Field(default=12, description="hours after which one must sign in again")
    idle_hours: float = Field(
        default=4, description="hours without a press after which one must sign in again"
    )
    first_code: str = Field(
        default="", description="one-time code that makes the first lead of an empty depot"
    )
    data: str = Field(default="", description="folder of the data, whose disk is watched")
    disk_reserve_bytes: int = Field(
        default=RESERVE_BYTES, description="room on that disk that no change may take"
    )
    address: str = Field(
        default="127.0.0.1", description="address the server listens at; 0.0.0.0 for all tablets"
    )
    port: int = Field(default=8420, description="port the server listens at")
    certificate: str = Field(
        default="", description="file of the certificate; with one, only HTTPS is spoken"
    )
    certificate_key: str = Field(default="", description="file of the certificate's key")
    https: bool = Field(
        default=False,
        description="whether people come by HTTPS through a proxy of the shop's own: their "
        "cookies then go nowhere else",
    )
    proxies: int = Field(
        default=0, description="reverse proxies before the application; script/server has one"
    )
    compile_ahead: bool = Field(
        default=True, description="whether books are compiled at the start, or when first asked for"
    )
    web_dist: str = Field(default="web/dist", description="folder of the built front end")

    @staticmethod
    def from_environment() -> "Settings":
        """Settings from FLANEUR_* variables; one that cannot be is refused by name. Raises
        SystemExit.
        """
        try:
            return Settings()
        except ValidationError as error:
            first = error.errors()[0]
            name = f"FLANEUR_{str(first['loc'][0]).upper()}"
            said = f"{name} is {first['input']!r}: {first['msg'][0].lower()}{first['msg'][1:]}."
            raise SystemExit(said) from error

    @property
    def is_secure(self) -> bool:
        """Whether people reach it by HTTPS."""
        return self.https or bool(self.certificate)

    @property
    def dist(self) -> Path:
        """Folder of the built front end."""
        return Path(self.web_dist).resolve()
