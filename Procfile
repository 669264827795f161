proxy: while true; do .venv/bin/python -m tools.proxy; sleep 1; done
web: while true; do .venv/bin/gunicorn --bind 127.0.0.1:$PAGES_PORT --workers 1 --threads 40 --timeout 120 --access-logfile - --access-logformat '%(t)s %(m)s %(U)s %(s)s %(b)s %(M)sms' "noema.assemble_pages:web_application()"; sleep 1; done
worker: while true; do nice -n 5 .venv/bin/python -m noema.assemble; sleep 1; done
identity: while true; do .venv/bin/python -m noema.stand_ins.identity_service $IDENTITY_PORT; sleep 1; done
