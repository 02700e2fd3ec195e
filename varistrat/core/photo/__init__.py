"""Photographs of the work: taken in safely, laid over the prediction."""
