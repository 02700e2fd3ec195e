"""Texts of users on their way into files of others: nothing in them is carried out, and nothing breaks the file."""

import unicodedata

FORMULA = ("=", "+", "-", "@", "\t", "\r")


def printable(text: str) -> str:
    """Without control characters, surrogates and what turns the reading direction: XML forbids the first, the last deceive."""
    return "".join(c for c in text if unicodedata.category(c) not in ("Cc", "Cs", "Cf") or c == "\n")


def cell(text: str) -> str:
    """A text for a CSV cell: a spreadsheet takes what begins like a formula for one, unless an apostrophe stands before it."""
    return f"'{text}" if text.startswith(FORMULA) or text.startswith("'") else text


def from_cell(text: str) -> str:
    """The text that `cell` wrote."""
    return text[1:] if text.startswith("'") and text[1:].startswith((*FORMULA, "'")) else text
