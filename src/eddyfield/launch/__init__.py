"""Setting up a machine for Eddyfield. Standard library only: it runs before anything is installed."""
