"""Text in CSV cells: a cell that begins like a formula is marked as text, so that no spreadsheet
runs it.
"""

_FORMULA = ("=", "+", "-", "@", "\t", "\r")


def safe_cell(text: str) -> str:
    """The text, with an apostrophe before what a spreadsheet would take for a formula."""
    return f"'{text}" if text.startswith(_FORMULA) else text


def plain_cell(text: str) -> str:
    """The text as it was before ``safe_cell``."""
    return text[1:] if text.startswith("'") and text[1:].startswith(_FORMULA) else text
