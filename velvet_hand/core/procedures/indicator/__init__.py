"""An indicator checked against known steps."""
