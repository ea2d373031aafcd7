"""A whole job as one file (docs/formats/job-archive.md): its rows, its chained journal, its report,
and the depot's seal.
"""

from flaneur.formats.archive.models import FORMAT, Archive, ArchiveError
from flaneur.formats.archive.packing import is_packed, pack
from flaneur.formats.archive.reading import read_archive
from flaneur.formats.archive.seal import Seal, Statement, new_key, public_key_of, sign_statement
from flaneur.formats.archive.verify import Verified, verify_archive, wrap

__all__ = [
    "FORMAT",
    "Archive",
    "ArchiveError",
    "Seal",
    "Statement",
    "Verified",
    "is_packed",
    "new_key",
    "pack",
    "public_key_of",
    "read_archive",
    "sign_statement",
    "verify_archive",
    "wrap",
]
