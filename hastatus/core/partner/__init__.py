"""Partner drills: two sides on one score.

`steps` and `passage` are the score's language, `drill` the whole document; `walk` follows it from
passage to passage. `body`, `reach` and `gap` are about distance, `budget` about time, `find` about
what is wrong with it, `feed` about what the feeder is told, `shadow` about doing it alone.
"""
