"""What is kept: SQLAlchemy models, migrations and queries. The only place that speaks SQL."""
