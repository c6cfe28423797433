"""Charging: the plan of one charge, what a charge tells of capacity, and the rack's."""
