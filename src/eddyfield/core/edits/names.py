"""What a name may be."""

from ..errors import DomainError

LONGEST_NAME = 120


def usable_name(name: str, of_what: str) -> str:
    """The name without blanks around it. Raises ``DomainError`` when nothing is left, or too much."""
    name = " ".join(name.split())
    if not name:
        raise DomainError(f"The {of_what} needs a name.", "Type at least one letter.")
    if len(name) > LONGEST_NAME:
        raise DomainError(f"The name has {len(name)} letters.", f"Keep it within {LONGEST_NAME}.")
    return name
