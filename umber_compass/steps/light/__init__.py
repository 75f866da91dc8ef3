"""The rig: where lamps stand, exposure, volumes, the paint chart."""
