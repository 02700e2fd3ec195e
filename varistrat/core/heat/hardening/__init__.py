"""From the forged blade to the hard one: normalising, the quench, straightening, tempers, and what readings change."""
