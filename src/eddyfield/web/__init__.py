"""Flask: the gate for access, requests and answers. It carries scenes, parts and files; no rule of the job lives here."""
