"""The made-up club, and simulated students that play drills through the real planner,
controller and scorer."""
