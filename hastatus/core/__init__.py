"""The rules of the job: pure functions and frozen models, no clock, no files, no network.

Each module is one idea. Times are seconds in documents a coach may read (`_s`) and milliseconds
on the run's monotonic clock in everything that was measured (`_ms`). Randomness comes from a
seed that is passed in.
"""
