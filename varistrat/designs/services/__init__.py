"""What can be done with designs: keep them, work them out, print them."""
