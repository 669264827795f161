"""Paint that behaves like paint: tubes, what they mix to, and how to get to a colour.

A tube is its absorption K and scattering S at 31 wavelengths, per volume as squeezed (Kubelka and
Munk 1931). Mixing adds both by volume; a film of paint then reflects by K / S, and its surface adds
its own (Saunderson 1942). The built-in tubes are a model from what is known of their pigments, not
a measurement; a teacher's own swatches bend the model to the tubes in the cupboard. From this come
a set's reach, its true complements, recipes, and the next thing to add.
"""
