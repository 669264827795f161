"""An exercise on screen wherever one is chosen: its form fields, and what comes of them."""
