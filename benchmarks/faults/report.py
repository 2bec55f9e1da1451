"""What a probe found."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field


@dataclass
class Report:
    """``tried`` so often; ``wrong`` tells each case that went wrong; ``figures`` are printed with it."""

    what: str
    tried: int = 0
    wrong: list[str] = field(default_factory=list)
    figures: dict[str, str] = field(default_factory=dict)

    def show(self) -> None:
        told = ", ".join(f"{name} {value}" for name, value in self.figures.items())
        print(f"{self.what}: {self.tried} tried, {len(self.wrong)} wrong" + (f"; {told}" if told else ""))
        for case in self.wrong[:20]:
            print(f"  {case}")


def seconds(values: Sequence[float]) -> str:
    """Median and greatest of some times."""
    ordered = sorted(values) or [0.0]
    return f"{ordered[len(ordered) // 2]:.2f} s median, {ordered[-1]:.2f} s at most"
