"""What follows from the readings without judging them: history, label, rest, charges, acid, water; together a case.

Each knows only those before it: history <- label <- rest <- charges <- acid <- water <- case.
"""
