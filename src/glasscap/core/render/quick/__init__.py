"""Every faster way to write what `compose` tells, behind one door."""
