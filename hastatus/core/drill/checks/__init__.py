"""What is wrong with a drill, why, and the mend to take."""
