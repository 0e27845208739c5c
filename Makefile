# Everything a newcomer needs: make demo, make test. Both set up what is missing.
ARGS ?=
export PYTHONPYCACHEPREFIX = $(CURDIR)/.venv/bytecode

.PHONY: demo test serve assets lock shots clean

demo: .venv/ready
	.venv/bin/bottega demo $(ARGS)

serve: .venv/ready
	.venv/bin/bottega serve $(ARGS)

test: .venv/ready-dev
	scripts/test $(ARGS)

.venv/ready: requirements.lock pyproject.toml
	scripts/environment requirements.lock
	touch $@

.venv/ready-dev: requirements-dev.lock pyproject.toml
	scripts/environment requirements-dev.lock
	scripts/chromium
	touch .venv/ready $@

assets:
	cd assets && npm ci && npm run build

lock: .venv/ready-dev
	scripts/lock

shots: .venv/ready-dev
	.venv/bin/python scripts/shots.py

clean:
	rm -rf .venv data-local .mypy_cache .ruff_cache .pytest_cache
