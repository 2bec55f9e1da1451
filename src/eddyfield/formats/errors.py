"""What goes wrong with files."""

from eddyfield.core.errors import DomainError


class FileError(DomainError):
    """A file cannot be read: the message says what is wrong with it, the remedy what to do."""
