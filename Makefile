.PHONY: setup fmt lint test
setup:
	@scripts/setup
fmt: setup
	.venv/bin/ruff format hastatus tests
	.venv/bin/ruff check --fix hastatus tests
lint: setup
	.venv/bin/ruff format --check hastatus tests
	.venv/bin/ruff check hastatus tests
	.venv/bin/mypy hastatus
test: lint
	.venv/bin/pytest
