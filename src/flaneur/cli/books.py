"""Commands on engine books: check one, print what a book and an operation template are made of."""

import argparse
import json

from flaneur.core.book.templates.model import shipped
from flaneur.core.book.templates.schema import book_schema, templates_page, templates_schema
from flaneur.formats.books import load_book


def check(options: argparse.Namespace) -> int:
    """Say what is wrong with a book."""
    book = load_book(options.file)
    print(f"{book.name}: no fault found.")
    return 0


def schema(_: argparse.Namespace) -> int:
    """Print the JSON Schema of engine books."""
    print(json.dumps(book_schema(), indent=2, ensure_ascii=False))
    return 0


def templates(options: argparse.Namespace) -> int:
    """Print the operation templates."""
    if options.schema:
        print(json.dumps(templates_schema(), indent=2, ensure_ascii=False))
    elif options.page:
        print(templates_page(), end="")
    else:
        print(json.dumps(shipped().model_dump(mode="json"), ensure_ascii=False))
    return 0
