"""Facts in, sentences out: what judging found and coaching advises, in a painter's words.

Sentences are made when they are read, for whom they are read: nothing here is ever kept.
"""
