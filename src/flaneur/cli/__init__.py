"""The command line."""

from flaneur.cli.commands import main

__all__ = ["main"]
