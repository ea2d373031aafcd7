"""Errors that reach a person: what was read, what was expected, what to do.

FlaneurError
 ├─ BookError      an engine book cannot be used
 ├─ CaptureError   a capture cannot be read as this engine
 ├─ ReadingError   a typed-in reading cannot be understood
 ├─ PlanError      no safe order follows from the book
 ├─ StepError      an observation does not fit its step
 ├─ RecordError    a record does not hold together
 └─ DeviceError    a capture box cannot be reached or breaks off
"""


class FlaneurError(Exception):
    """One sentence for the person, with the offending value in it and a way forward."""

    def __init__(
        self, message: str, *, read: str = "", expected: str = "", advice: str = ""
    ) -> None:
        super().__init__(message)
        self.message = message
        self.read = read
        self.expected = expected
        self.advice = advice

    def __str__(self) -> str:
        parts = [self.message]
        if self.read:
            parts.append(f"Read: {self.read}.")
        if self.expected:
            parts.append(f"Expected: {self.expected}.")
        if self.advice:
            parts.append(self.advice)
        return " ".join(parts)


class BookError(FlaneurError):
    """An engine book cannot be used; ``faults`` holds one line per fault, each with its path in the
    file.
    """

    def __init__(self, message: str, faults: list[str], **words: str) -> None:
        super().__init__(message, **words)
        self.faults = faults


class CaptureError(FlaneurError):
    """A capture cannot be read; ``proposal`` maps its channels to the book's when another order
    would fit.
    """

    def __init__(
        self, message: str, *, proposal: dict[str, str] | None = None, **words: str
    ) -> None:
        super().__init__(message, **words)
        self.proposal = proposal


class ReadingError(FlaneurError):
    """A typed-in reading cannot be understood."""


class PlanError(FlaneurError):
    """No safe order follows from the book for this scope."""


class StepError(FlaneurError):
    """An observation does not fit its step."""


class RecordError(FlaneurError):
    """A record does not hold together, or cannot hold what it is given."""


class DeviceError(FlaneurError):
    """A capture box cannot be reached, refuses, or breaks off."""
