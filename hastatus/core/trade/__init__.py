"""What the trade knows: techniques, gear, limbs and reach, and how hard contact may be."""
