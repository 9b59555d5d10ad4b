# make demo | test | shots | bench | soak | check | dist ; each sets itself up on a fresh machine
PYTHON ?= python3
BIN := .venv/bin

.PHONY: setup demo test check shots bench soak schema flow dist clean

# compiled beforehand: where Python is told to keep no compiled files, each command begins 0.1 to 0.25 s sooner
setup: .venv/ready
	@$(BIN)/python -m compileall -q src

.venv/ready: requirements.lock pyproject.toml tools/setup.sh
	sh tools/setup.sh $(PYTHON)

demo: setup
	$(BIN)/yellow-bob demo

test: setup check
	QT_QPA_PLATFORM=offscreen $(BIN)/python -m pytest -n 2 tests

check: setup
	$(BIN)/ruff check .
	$(BIN)/ruff format --check -q .
	$(BIN)/mypy

shots: setup
	QT_QPA_PLATFORM=offscreen QT_LOGGING_RULES="default.warning=false" $(BIN)/python tools/shots.py docs/screenshots

bench: setup
	QT_QPA_PLATFORM=offscreen $(BIN)/python tools/bench.py build/bench.json

soak: setup
	QT_QPA_PLATFORM=offscreen $(BIN)/python -m pytest -m soak tests/soak

schema: setup
	$(BIN)/yellow-bob schema > docs/design.schema.json
	$(BIN)/yellow-bob schema --reports > docs/reports.schema.json

flow: setup
	$(BIN)/python tools/flow.py docs/data-flow.svg

dist: setup
	$(BIN)/python tools/manual.py share
	rm -rf build/lib build/bdist.*
	$(BIN)/python -m pip wheel -q --no-deps --no-build-isolation -w dist .
	@ls dist/*.whl

clean:
	rm -rf build dist .pytest_cache .mypy_cache .ruff_cache
