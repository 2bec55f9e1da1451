"""One module or folder a file format: bytes in, core types out, and back. ``table`` lists them all."""
