"""The database: models, migrations, and jobs in and out of it."""
