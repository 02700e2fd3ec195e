"""A design as it is kept and exchanged: `varistrat.design/1` and what came before it."""
