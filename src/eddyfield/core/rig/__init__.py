"""Transforms, rigs, their motion and plain bodies: where joints are."""
