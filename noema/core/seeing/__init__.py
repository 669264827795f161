"""Learning to see: short series of questions to the eye, and what they tell of it.

A question shows colours and asks for one of them; some come at the level whose answer tells most of
the smallest difference in value, hue or chroma that somebody sees. What a screen can't show, or
paper didn't print, isn't asked. Nothing here says anything about anybody's health.
"""
