"""Requests that changed something, by the key their sender gave them."""

from datetime import datetime

from sqlmodel import Column, Field, Index, SQLModel, Text

from flaneur.store.tables.base import when


class SentOnce(SQLModel, table=True):
    """A change that was made under a key, and what was answered. It is written in the transaction
    of the change itself. ``what``: method and address; ``body``: SHA-256 of what was sent.
    """

    __tablename__ = "sent_once"  # type: ignore[assignment]
    __table_args__ = (Index("ix_sent_once_at", "at"),)

    key: str = Field(primary_key=True, max_length=80)
    person_id: int = Field(foreign_key="user_account.id", index=True)
    what: str = Field(max_length=300)
    body: str = Field(max_length=64)
    answer: str = Field(default="", sa_column=Column(Text, nullable=False))
    at: datetime = when()
