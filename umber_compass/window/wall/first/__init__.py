"""The strip of questions above the study wall: what first colours are told."""
