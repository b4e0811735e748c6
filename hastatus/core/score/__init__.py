"""From events to outcomes: which input answers which cue, and how good the answer was."""
