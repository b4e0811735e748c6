# Every target installs what it needs first; a repeat of that takes a moment.
.PHONY: setup demo start test lint lint-rules lint-types fmt types bench mutants
.DEFAULT_GOAL := help

# Else each process, of some forty in a test run, compiles all of our code again.
unexport PYTHONDONTWRITEBYTECODE

CODE := hastatus tests benchmarks scripts/screenshots scripts/ui-constants
UI := npm --prefix ui run --silent

help:
	@echo "make demo   a made-up club to look around in    (PORT=8000)"
	@echo "make start  your own club                       (PORT=8000)"
	@echo "make test   every check                         make bench   the promised figures"
	@echo "make lint   style and types                     make fmt     put the style right"

setup:
	@scripts/setup

setup-test:
	@scripts/setup test

demo: setup
	@exec .venv/bin/hastatus demo

start: setup
	@exec .venv/bin/hastatus serve

fmt: setup
	.venv/bin/ruff format $(CODE)
	.venv/bin/ruff check --fix $(CODE)
	$(UI) format

lint: setup
	@echo "lint: style and types, Python and TypeScript"
	@$(MAKE) --no-print-directory --jobs 2 --output-sync=target lint-rules lint-types

# Two of about the same length, side by side.
lint-rules:
	@$(UI) lint

lint-types:
	@.venv/bin/ruff format --check $(CODE)
	@.venv/bin/ruff check $(CODE)
	@.venv/bin/mypy hastatus benchmarks
	@.venv/bin/lint-imports --no-cache --no-logo
	@$(UI) format:check
	@$(UI) types
	@scripts/api-types --check

test: setup-test
	@scripts/test

bench: setup-test
	@.venv/bin/python -m benchmarks

# What is changed in ten modules of the core, one mutant at a time, and what no test notices.
mutants: setup-test
	@OMP_NUM_THREADS=1 .venv/bin/mutmut run --max-children 2
	@.venv/bin/mutmut results
