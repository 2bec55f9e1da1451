"""What the start command says where it cannot start."""

from __future__ import annotations

from pathlib import Path

import pytest

from eddyfield.cli import serve


def test_a_folder_that_cannot_be_written_is_told_in_a_sentence(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    (tmp_path / "a file").write_text("in the way")
    monkeypatch.setenv("EDDYFIELD_VAR", str(tmp_path / "a file" / "var"))
    with pytest.raises(serve.ServeError, match=r"cannot be written .*Let the folder be written") as told:
        serve.run(["--port", "0"])
    assert "Traceback" not in str(told.value)
