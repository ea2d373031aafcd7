"""The command line: correlate, simulate, diagnose, clearance, plan, book, verify and key need no
database; user does.
"""

import importlib
import json
import sys

from pydantic import ValidationError

from flaneur.cli.parser import parser
from flaneur.core.errors import BookError, ErrorCode, FlaneurError


def main(arguments: list[str] | None = None) -> int:
    """Run one command; 0 when done, 1 when the input is refused, with one clear message on standard
    error; where JSON was asked for, an object with ``error`` on standard output too.
    """
    options = parser().parse_args(arguments)
    try:
        module, _, name = options.run.partition(":")
        run = getattr(importlib.import_module(f"flaneur.cli.{module}"), name)
        return int(run(options))
    except BookError as error:
        words = str(error) if not error.lines else "\n".join(error.lines)
        refusal = _refusal(error)
    except FlaneurError as error:
        words, refusal = str(error), _refusal(error)
    except ValidationError as error:
        faults = [
            f"{'.'.join(str(p) for p in fault['loc']) or 'file'}: {fault['msg']}"
            for fault in error.errors()
        ]
        words = "\n".join(faults)
        refusal = {"code": ErrorCode.INPUT_INVALID, "message": faults[0], "read": faults[0]}
    except (FileNotFoundError, IsADirectoryError, PermissionError) as error:
        words = f"Cannot read {error.filename}: {error.strerror}."
        refusal = {"code": ErrorCode.NOT_FOUND, "message": words, "read": str(error.filename)}
    except (json.JSONDecodeError, UnicodeDecodeError) as error:
        words = f"This is not JSON: {error}."
        refusal = {"code": ErrorCode.INPUT_INVALID, "message": words, "read": str(error)}
    print(words, file=sys.stderr)
    if getattr(options, "json", False):
        print(json.dumps({"error": {"expected": "", "advice": "", **refusal}}, ensure_ascii=False))
    return 1


def _refusal(error: FlaneurError) -> dict[str, str]:
    """An error as a document has it."""
    return {
        "code": error.code,
        "message": error.message,
        "read": error.read,
        "expected": error.expected,
        "advice": error.advice,
    }
