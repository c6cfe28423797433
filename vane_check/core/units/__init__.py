"""Quantities: comparing at an instrument's resolution, lines between points, months, money, zones, conversions."""
