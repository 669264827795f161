"""Work done outside a request: one task a file, each calling one action.

The queue lives in the same PostgreSQL. A worker that dies is noticed by its silence, and its
unfinished jobs are taken up again; doing a job twice changes nothing.
"""
