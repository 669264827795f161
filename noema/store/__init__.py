"""Tables, migrations and named questions; rows become frozen values here.

A question answers with a fixed number of queries, whatever the number of rows. The caller owns the
transaction: nothing here commits.
"""
