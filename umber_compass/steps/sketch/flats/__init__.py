"""How a flats picture becomes regions: colours that own blocks of px, exact or stored with loss
(docs/sketch.md)."""
