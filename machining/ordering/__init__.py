"""In which order the operations of a setup can be cut, why, and which order takes least between
them.
"""
