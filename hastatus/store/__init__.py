"""Everything that is kept: PostgreSQL through SQLAlchemy, one repository module per aggregate."""
