"""The checks that run before the tests: name, folder below the checkout, command."""

CHECKS: list[tuple[str, str, list[str]]] = [
    ("ruff", ".", ["ruff", "check", "--quiet", "src", "tests", "benchmarks"]),
    ("ruff format", ".", ["ruff", "format", "--check", "--quiet", "src", "tests", "benchmarks"]),
    ("mypy", ".", ["mypy", "--no-error-summary"]),
    ("imports point one way", ".", ["lint-imports", "--no-logo"]),
    ("generated types are current", ".", ["python", "-m", "eddyfield.web.generate_types", "--check"]),
    ("tsc", "web", ["npx", "--no-install", "tsc", "--noEmit"]),
    ("eslint", "web", ["npx", "--no-install", "eslint", "src", "--max-warnings", "0"]),
    (
        "prettier",
        "web",
        [
            "npx",
            "--no-install",
            "prettier",
            "--check",
            "--log-level",
            "warn",
            "src",
            "../tests/front_end",
            "../tests/page",
        ],
    ),
    (
        "the front end's own tests",
        "web",
        ["npx", "--no-install", "vitest", "run", "--config", "vitest.config.ts", "--reporter=dot"],
    ),
    (
        "the page on its server",
        "web",
        ["npx", "--no-install", "vitest", "run", "--config", "vitest.page.config.ts", "--reporter=dot"],
    ),
]
