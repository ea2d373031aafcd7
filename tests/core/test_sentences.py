"""No code, on either side of the network, takes a sentence for data.

What is looked for, in the product's Python and in the front end's TypeScript:

- a comparison (``==``, ``!=``, ``===``, ``!==``) with a text of several words, or one that ends a
  sentence;
- membership of a text among several, or ``startswith``/``startsWith``, ``endswith``/``endsWith``,
  ``includes``, ``removeprefix`` and ``removesuffix`` with a text of several words;
- ``split``, ``partition`` or ``replace`` at a comma and a blank, which names and phrases are joined
  with, or at a colon and a blank, which a sentence is hung on its subject with;
- ``case`` of a ``match`` or ``switch`` with a text of several words;
- an error's words (``message``, ``advice``) compared with anything.

A text of several words is letters, a blank, and letters. Parsers of files read words because the
file has them: they are listed, each with its reason.
"""

import ast
import re
from collections.abc import Iterator

import pytest
from tests.support.cluster import ROOT

PRODUCT = sorted((ROOT / "src" / "flaneur").rglob("*.py"))
FRONT_END = sorted(p for p in (ROOT / "web" / "src").rglob("*.ts*") if p.name != "schema.d.ts")
READS_FILES = {
    "formats/logs.py": "a log's remarks and column heads are words of its format",
    "core/plan/order.py": "two nodes of the graph that are no step have names of their own",
    "core/job/change.py": "kinds of entry as the journal's chain has them, compared as an enum",
}
SENTENCE = re.compile(r"[A-Za-z’']+[,;:.]? [A-Za-z]|[a-z]\.$")
TAKES_APART = {"startswith", "endswith", "removeprefix", "removesuffix"}
JOINS = (", ", ": ")
CUTS = {"split", "partition", "rpartition", "replace"}


def texts(node: ast.AST) -> Iterator[str]:
    """Literal texts a comparison may be with."""
    for inner in ast.walk(node):
        if isinstance(inner, ast.Constant) and isinstance(inner.value, str):
            yield inner.value


def in_python(tree: ast.AST) -> Iterator[tuple[int, str]]:
    """Line and text of everything in Python that takes a sentence for data."""
    for node in ast.walk(tree):
        looked: list[ast.AST] = []
        if isinstance(node, ast.Compare):
            looked = [node.left, *node.comparators]
            words = [n for n in looked if isinstance(n, ast.Attribute)]
            if any(n.attr in ("message", "advice") for n in words):
                yield node.lineno, ast.unparse(node)
        elif isinstance(node, ast.Call) and isinstance(node.func, ast.Attribute):
            if node.func.attr in TAKES_APART:
                looked = list(node.args)
            elif node.func.attr in CUTS and any(t in JOINS for a in node.args for t in texts(a)):
                yield node.lineno, ast.unparse(node)
        elif isinstance(node, ast.MatchValue):
            looked = [node.value]
        for part in looked:
            if isinstance(part, ast.Constant | ast.Tuple | ast.List | ast.Set):
                yield from ((node.lineno, t) for t in texts(part) if SENTENCE.search(t))


IN_TYPESCRIPT = (
    re.compile(r"[!=]==?\s*[\"'`]([^\"'`\n]*)[\"'`]"),
    re.compile(r"[\"'`]([^\"'`\n]*)[\"'`]\s*[!=]=="),
    re.compile(r"\.(?:startsWith|endsWith|includes)\(\s*[\"'`]([^\"'`\n]*)[\"'`]"),
    re.compile(r"case\s+[\"'`]([^\"'`\n]*)[\"'`]\s*:"),
)
CUTS_TYPESCRIPT = re.compile(
    r"\.(?:split|replace)\(\s*(?:[\"'`][,:] [\"'`]|/[^/\n]*(?:, |[a-z]{3} )[^/\n]*/)"
)
WORDS_TYPESCRIPT = re.compile(r"\.(?:message|advice)\s*[!=]==")


def in_typescript(text: str) -> Iterator[tuple[int, str]]:
    """Line and text of everything in TypeScript that takes a sentence for data."""
    for number, line in enumerate(text.splitlines(), 1):
        for pattern in IN_TYPESCRIPT:
            yield from ((number, m) for m in pattern.findall(line) if SENTENCE.search(m))
        for pattern in (CUTS_TYPESCRIPT, WORDS_TYPESCRIPT):
            yield from ((number, m.group(0)) for m in pattern.finditer(line))


def test_the_product_takes_no_sentence_apart() -> None:
    found = [
        f"{path.relative_to(ROOT)}:{line}: {text}"
        for path in PRODUCT
        if str(path.relative_to(ROOT / "src" / "flaneur")) not in READS_FILES
        for line, text in in_python(ast.parse(path.read_text(encoding="utf-8")))
    ]
    assert found == []


def test_the_front_end_takes_no_sentence_apart() -> None:
    found = [
        f"{path.relative_to(ROOT)}:{line}: {text}"
        for path in FRONT_END
        for line, text in in_typescript(path.read_text(encoding="utf-8"))
    ]
    assert found == []


@pytest.mark.parametrize("path", sorted(READS_FILES))
def test_what_is_excepted_is_still_there(path: str) -> None:
    assert (ROOT / "src" / "flaneur" / path).is_file()


@pytest.mark.parametrize(
    "code",
    [
        'if wear.judged == "over the limit": pass',
        'x = ask.startswith("Links between")',
        'if step in ("on the mark", "late"): pass',
        'name, rest = title.split(", ")',
        "if error.message == other: pass",
        'match a:\n  case "not tried": pass',
    ],
)
def test_the_look_through_python_finds_what_it_should(code: str) -> None:
    assert list(in_python(ast.parse(code)))


@pytest.mark.parametrize(
    "code",
    [
        'const isSwap = file.message !== "x"',
        'if (w.judged === "over the limit") return',
        'row.name.split(", ")',
        'name.replace(/ cam, bank (.).*/, "")',
        'words.includes("not told")',
        'case "off its base":',
    ],
)
def test_the_look_through_typescript_finds_what_it_should(code: str) -> None:
    assert list(in_typescript(code))


@pytest.mark.parametrize("code", ['state === "open"', 'key.startsWith("draft")', 'a.split("/")'])
def test_codes_are_left_alone(code: str) -> None:
    assert not list(in_typescript(code))
