"""The command line: readings of files without a database, and serving the application."""
