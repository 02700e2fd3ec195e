"""What a shop owns: an item of the rack, how it is typed, read and written, and what an offcut is still good for."""
