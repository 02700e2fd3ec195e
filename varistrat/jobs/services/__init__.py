"""Ordering and stopping jobs, running them, sweeping up after workers."""
