"""Helper functions that generated Python scripts carry; a script holds those it uses and those they import."""
