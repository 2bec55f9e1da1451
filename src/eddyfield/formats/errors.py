"""What goes wrong with files."""

from eddyfield.core.errors import DomainError


class FileError(DomainError):
    """A file cannot be read: the message says what is wrong with it, the remedy what to do."""


class DamagedFile(FileError):
    """A file that contradicts itself. What was ``found``, in the terms of its format, stands behind the remedy, for whoever
    looks after what wrote it."""

    def __init__(self, found: str) -> None:
        super().__init__(
            "The file is damaged, or was cut off on its way here.", f"Copy it or export it again. (Found: {found})"
        )


class OfOtherKind(FileError):
    """A file that is not what its name says, or is damaged at its very beginning."""

    def __init__(self, kind: str, found: str) -> None:
        super().__init__(
            f"The file is no {kind}, or it is damaged.", f"Choose another one, or export it again. (Found: {found})"
        )
