"""The one kind of error the core raises on purpose: it names the thing and the remedy."""


class DomainError(ValueError):
    """Something asked for cannot be done; the message is for the person who asked.

    ``remedy`` says what to do instead, as a full sentence, and may be empty.
    """

    def __init__(self, message: str, remedy: str = "") -> None:
        super().__init__(f"{message} {remedy}".strip())
        self.message = message
        self.remedy = remedy
