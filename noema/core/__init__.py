"""Pure computation: values in, values out.

No clock, randomness, files, network, settings, SQL or HTTP. Read the packages in the order
colour, exercises, sheet, photo, judging, progress: each imports only those before it.
"""
