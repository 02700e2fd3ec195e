"""What went wrong: from what is seen to why, and what to do."""
