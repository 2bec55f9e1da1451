"""How far the judgements can be trusted: made motion and camera moves, clean and with planted faults, scored class by class."""
