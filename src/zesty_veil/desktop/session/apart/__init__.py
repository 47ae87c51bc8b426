"""Computing in a process of its own, so that arithmetic never takes the interpreter from a window.

Python lets one thread of a process work at a time, and every call into the toolkit hands that
right over and must get it back. With the films in another process there is nobody to wait for.
"""
