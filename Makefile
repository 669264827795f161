PY = .venv/bin/python

.PHONY: demo start stop test assets fonts catalogue bench screenshots

demo:
	@sh tools/bootstrap.sh demo && $(PY) -m tools.local demo

start:
	@sh tools/bootstrap.sh demo && NOEMA_HOME=.school $(PY) -m tools.local start

stop:
	@test ! -x $(PY) || { $(PY) -m tools.local stop; test ! -d .school || NOEMA_HOME=.school $(PY) -m tools.local stop; }

test:
	@sh tools/bootstrap.sh test && $(PY) -m tools.check

assets:
	@sh tools/bootstrap.sh assets && npm ci --no-audit --no-fund --loglevel=error && $(PY) -m tools.build_assets

fonts:
	@sh tools/bootstrap.sh assets && $(PY) -m tools.build_fonts

catalogue:
	@sh tools/bootstrap.sh test && $(PY) -m tools.catalogue

bench:
	@sh tools/bootstrap.sh test && $(PY) -m bench.run

screenshots:
	@sh tools/bootstrap.sh test && $(PY) -m tools.local demo && $(PY) -m tools.local wait && $(PY) -m tools.screenshots
