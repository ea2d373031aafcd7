"""The command line: correlate, simulate, diagnose, clearance, plan, book, verify and key need no
database; user does.
"""

import importlib
import json
import sys

from pydantic import ValidationError

from flaneur.cli.parser import parser
from flaneur.core.errors import BookError, FlaneurError


def main(arguments: list[str] | None = None) -> int:
    """Run one command; 0 when done, 1 when the input is refused, with one clear message on standard
    error.
    """
    options = parser().parse_args(arguments)
    try:
        module, _, name = options.run.partition(":")
        run = getattr(importlib.import_module(f"flaneur.cli.{module}"), name)
        return int(run(options))
    except BookError as error:
        print(str(error) if not error.lines else "\n".join(error.lines), file=sys.stderr)
    except FlaneurError as error:
        print(str(error), file=sys.stderr)
    except ValidationError as error:
        for fault in error.errors():
            print(
                f"{'.'.join(str(p) for p in fault['loc']) or 'file'}: {fault['msg']}",
                file=sys.stderr,
            )
    except (FileNotFoundError, IsADirectoryError, PermissionError) as error:
        print(f"Cannot read {error.filename}: {error.strerror}.", file=sys.stderr)
    except (json.JSONDecodeError, UnicodeDecodeError) as error:
        print(f"This is not JSON: {error}.", file=sys.stderr)
    return 1
