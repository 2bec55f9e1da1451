"""The pure core (see README.md): frozen data in, arrays and readings out."""
