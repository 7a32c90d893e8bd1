"""What cannot be, as a sentence."""


class DomainError(ValueError):
    """Something that cannot be computed, fitted or kept as it was asked for.

    Its message is a sentence for the person who asked: it names the thing and the way out. Only this becomes an answer
    of its own (422, exit 2); any other ValueError is a fault of the program.
    """
