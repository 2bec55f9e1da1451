"""The cut: which camera the audience sees when, and its path through all of them."""
