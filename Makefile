# Two commands matter: make demo, make test. The rest serves them.
SHELL := /bin/sh
PORT ?= 8000
export PORT
# bytecode is kept: servers, workers and readers are processes of their own, started again and again
unexport PYTHONDONTWRITEBYTECODE
PY := .venv/bin/python
ONCE := python3 tools/once.py
WEB := web/src web/index.html web/vite.config.ts web/package.json web/package-lock.json

.PHONY: demo test bench client build setup setup-tests env shots fuzz lock

demo: setup build
	@$(PY) manage.py migrate -v0
	@$(PY) manage.py load_demo
	@exec $(PY) tools/serve.py

test: setup-tests build
	@$(PY) -m machining.removal.warm
	@$(PY) tools/groups.py

setup:
	@python3 tools/system.py
	@$(MAKE) --no-print-directory env

setup-tests:
	@python3 tools/system.py --tests
	@$(MAKE) --no-print-directory env

env:
	@test -x $(PY) || { rm -rf .stamps/python; python3 -m venv .venv; }
	@$(ONCE) python requirements pyproject.toml -- sh -c '.venv/bin/python -m pip install -qq --disable-pip-version-check --require-hashes -r requirements/uv.txt && .venv/bin/uv pip install -q --require-hashes -r requirements/test.txt --python .venv/bin/python'
	@$(PY) tools/install.py
	@test -d web/node_modules || rm -f .stamps/node
	@$(ONCE) node web/package.json web/package-lock.json web/.npmrc -- npm --prefix web ci --silent

build: env
	@test -f build/web/index.html || rm -f .stamps/web
	@$(ONCE) web $(WEB) -- npm --prefix web run --silent build

client:
	@mkdir -p build && $(PY) manage.py openapi build/openapi.json && cd web && npm run --silent client

bench: setup-tests build
	@$(PY) -m pytest tests/bench --benchmark-only --benchmark-columns=median,min,max,rounds --benchmark-sort=name
	@$(PY) -m tests.bench.every_edit

fuzz: setup-tests build
	@LINT=all npm --prefix web run --silent lint
	@HYPOTHESIS_PROFILE=long $(PY) -m pytest tests/core -q -k "property or fuzz or every or what_they_were or keep_their_word"
	@HYPOTHESIS_PROFILE=long $(PY) -m pytest tests/shop/test_poison.py tests/shop/test_running.py tests/browser/test_findings.py -q
	@$(PY) tools/fuzz.py

shots: setup-tests build
	@$(PY) tools/shots.py docs/screenshots

lock:
	@cd requirements && ../.venv/bin/uv pip compile -q --universal --python-version 3.11 --generate-hashes --no-emit-index-url --no-header run.in -o run.txt && ../.venv/bin/uv pip compile -q --universal --python-version 3.11 --generate-hashes --no-emit-index-url --no-header test.in -o test.txt
