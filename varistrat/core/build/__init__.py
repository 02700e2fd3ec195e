"""One time a design is carried out: its records, and what follows from them."""
