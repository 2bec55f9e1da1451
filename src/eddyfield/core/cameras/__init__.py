"""A camera and what carries it: mounts, aim, framing lock, focus, dolly zoom, and where to put it."""
