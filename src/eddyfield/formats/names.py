"""Names of nodes made unique, as the interface and the command line use them."""

from collections.abc import Iterable


def unique_names(names: list[str], first: Iterable[int] = ()) -> tuple[str, ...]:
    """The names, a name's second bearer with ``#2`` behind it and so on; the indices in ``first`` count before the rest."""
    out = [""] * len(names)
    taken: set[str] = set()
    reserved = set(names)
    leading = list(dict.fromkeys(first))
    ahead = set(leading)
    count: dict[str, int] = {}
    for index in [*leading, *(i for i in range(len(names)) if i not in ahead)]:
        name = names[index]
        candidate, number = name, count.get(name, 1)
        while candidate in taken or (candidate != name and candidate in reserved):
            number += 1
            candidate = f"{name}#{number}"
        count[name] = number
        taken.add(candidate)
        out[index] = candidate
    return tuple(out)
