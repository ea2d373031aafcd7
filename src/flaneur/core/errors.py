"""Errors that reach a person: what was read, what was expected, what to do, and a code to act on.

FlaneurError
 ├─ BookError      an engine book cannot be used
 ├─ CaptureError   a capture cannot be read as this engine
 ├─ ReadingError   a typed-in reading cannot be understood
 ├─ PlanError      no safe order follows from the book
 ├─ StepError      an observation does not fit its step
 ├─ ReleaseError   an engine may not be released yet
 ├─ RecordError    a record does not hold together
 ├─ DeviceError    a capture box cannot be reached or breaks off
 └─ KeyTextError   a text is not the key it should be
"""

from collections.abc import Generator, Sequence
from contextlib import contextmanager
from enum import StrEnum
from typing import NamedTuple, Self


class ErrorCode(StrEnum):
    """What kind of error it is: software acts on it, a person reads the words."""

    REFUSED = "refused"
    BOOK_UNUSABLE = "book_unusable"
    CAPTURE_UNREADABLE = "capture_unreadable"
    COLUMNS_UNNAMED = "columns_unnamed"
    CHANNELS_SWAPPED = "channels_swapped"
    OTHER_ENGINE = "other_engine"
    READING_UNREADABLE = "reading_unreadable"
    PLAN_IMPOSSIBLE = "plan_impossible"
    STEP_UNFIT = "step_unfit"
    RELEASE_REFUSED = "release_refused"
    START_REFUSED = "start_refused"
    SIGNATURE_REFUSED = "signature_refused"
    RECORD_BROKEN = "record_broken"
    DEVICE_LOST = "device_lost"
    KEY_UNREADABLE = "key_unreadable"
    NOT_FOUND = "not_found"
    JOB_STALE = "job_stale"
    JOB_SIGNED = "job_signed"
    JOB_RELEASED = "job_released"
    NOTHING_TO_UNDO = "nothing_to_undo"
    BOX_TAKEN = "box_taken"
    BOX_OFF = "box_off"
    FILE_REFUSED = "file_refused"
    TOO_LARGE = "too_large"
    FORBIDDEN = "forbidden"
    ACCOUNT_REFUSED = "account_refused"
    UNIT_REFUSED = "unit_refused"
    SETTING_REFUSED = "setting_refused"
    DECISION_REFUSED = "decision_refused"
    GO_AHEAD_MISSING = "go_ahead_missing"
    LIST_REFUSED = "list_refused"
    STEP_ANSWERED = "step_answered"
    STEP_HELD = "step_held"
    KEY_REUSED = "key_reused"
    PASSWORD_DUE = "password_due"
    NOT_SIGNED_IN = "not_signed_in"
    PAGE_STALE = "page_stale"
    INPUT_INVALID = "input_invalid"
    BODY_UNREADABLE = "body_unreadable"
    BODY_WRONG = "body_wrong"
    TOO_MANY = "too_many"
    ADDRESS_WRONG = "address_wrong"
    DATABASE_AWAY = "database_away"
    SERVER_AWAY = "server_away"
    NO_ROOM = "no_room"
    BROKEN = "broken"


class FlaneurError(Exception):
    """One sentence for the person, with the offending value in it and a way forward.

    ``code`` is the class's own unless one is given; ``field`` names what was filled in wrong, as
    the request calls it.
    """

    code: ErrorCode = ErrorCode.REFUSED

    def __init__(
        self,
        message: str,
        *,
        read: str = "",
        expected: str = "",
        advice: str = "",
        code: ErrorCode | None = None,
        field: str = "",
    ) -> None:
        super().__init__(message)
        self.field = field
        self.message = message
        self.read = read
        self.expected = expected
        self.advice = advice
        if code is not None:
            self.code = code

    def __str__(self) -> str:
        parts = [self.message]
        if self.read:
            parts.append(f"Read: {self.read}.")
        if self.expected:
            parts.append(f"Expected: {self.expected}.")
        if self.advice:
            parts.append(self.advice)
        return " ".join(parts)


@contextmanager
def at_field(name: str) -> Generator[None, None, None]:
    """What is refused within is about this field, unless the error names one already."""
    try:
        yield
    except FlaneurError as error:
        error.field = error.field or name
        raise


class Fault(NamedTuple):
    """One fault of a book: where in the file, what was found there, what was expected."""

    path: str
    found: str
    expected: str = ""

    @property
    def line(self) -> str:
        """The fault in one line for a person."""
        return f"{self.path}: {self.found}" + (
            f", expected {self.expected}" if self.expected else ""
        )


class BookError(FlaneurError):
    """An engine book cannot be used, or holds nothing of that name; ``faults`` says where."""

    code = ErrorCode.BOOK_UNUSABLE

    def __init__(
        self,
        message: str,
        faults: Sequence[Fault] = (),
        *,
        read: str = "",
        expected: str = "",
        advice: str = "",
    ) -> None:
        super().__init__(message, read=read, expected=expected, advice=advice)
        self.faults = tuple(faults)

    @property
    def lines(self) -> list[str]:
        """A line for each fault, for a person."""
        return [fault.line for fault in self.faults]

    @classmethod
    def of(cls, faults: Sequence[Fault]) -> Self:
        """The refusal of a book with these faults."""
        return cls(
            f"The engine book has {len(faults)} fault{'s' if len(faults) != 1 else ''}.",
            faults,
            read=faults[0].line,
            advice="Mend the file and check it again.",
        )


class CaptureError(FlaneurError):
    """A capture cannot be read; ``proposal`` maps its channels to the book's when another order
    would fit.
    """

    code = ErrorCode.CAPTURE_UNREADABLE

    def __init__(
        self,
        message: str,
        *,
        proposal: dict[str, str] | None = None,
        read: str = "",
        expected: str = "",
        advice: str = "",
        code: ErrorCode | None = None,
    ) -> None:
        super().__init__(message, read=read, expected=expected, advice=advice, code=code)
        self.proposal = proposal


class ReadingError(FlaneurError):
    """A typed-in reading cannot be understood."""

    code = ErrorCode.READING_UNREADABLE


class PlanError(FlaneurError):
    """No safe order follows from the book for this scope."""

    code = ErrorCode.PLAN_IMPOSSIBLE


class StepError(FlaneurError):
    """An observation does not fit its step."""

    code = ErrorCode.STEP_UNFIT


class ReleaseError(FlaneurError):
    """The engine may not be released yet."""

    code = ErrorCode.RELEASE_REFUSED


class RecordError(FlaneurError):
    """A record does not hold together, or cannot hold what it is given."""

    code = ErrorCode.RECORD_BROKEN


class DeviceError(FlaneurError):
    """A capture box cannot be reached, refuses, or breaks off."""

    code = ErrorCode.DEVICE_LOST


class KeyTextError(FlaneurError):
    """A text is not the key it should be."""

    code = ErrorCode.KEY_UNREADABLE
