"""A shop: its people and their roles, its own steels and numbers. All that is kept belongs to one."""
