"""How a colour is said and compared.

Lab is CIELAB for the D50 white and the 2 degree observer, the convention of ICC and CGATS files.
HVC is the hue, value and chroma of ASTM D1535 (renotation data, illuminant C). Arrays hold one
colour in their last axis; every function takes any shape before it.
"""
