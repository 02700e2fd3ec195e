"""The blade: outline, forging allowance, grinds, faces, and where it lies in its bar.

Frame (mm), right-handed: x from the heel (0) to the tip (L); y a straight axis, 0 at
the heel's edge, positive to the spine; z = x cross y. Edge down and tip away from the
holder, +z is the right face. h = y - y_edge(x), H = y_spine - y_edge, u = h/H.
"""
