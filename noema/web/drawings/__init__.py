"""Pictures of paint, worked out as geometry; the templates beside only write it down.

Only paint has colour. Everything else is grey, and every difference that is shown is also said.
"""
