"""The pages: a folder a feature, with its views, typed page objects and templates.

A view reads, acts, answers. Every page works by plain links and forms; htmx only fetches the very
fragments a page includes.
"""
