"""Every calculator once: thin callers of the subjects, reached by name from command line, API,
Bench and operations.
"""
