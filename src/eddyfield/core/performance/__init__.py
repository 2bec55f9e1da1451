"""How a character is shown: exposures, Ride, and the contacts of its feet."""
