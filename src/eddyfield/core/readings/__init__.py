"""The judgements: what is measured of a picture, a motion or a camera, and when it is told."""
