"""Line art: which px are ink, how far each other px lies from it, and where a line's end leaves a
gap."""
