"""MariaDB: keeps scenes as rows, saves differences with a journal, holds files by their digest. No rule of the job."""
