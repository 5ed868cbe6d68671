"""Rows that are held by a write, as a cluster asks; and which saves concern the whole job."""


def up(migrator, db):
    db.execute_sql("ALTER TABLE job ADD COLUMN held INT NOT NULL DEFAULT 0")
    db.execute_sql("ALTER TABLE circuit ADD COLUMN held INT NOT NULL DEFAULT 0")
    db.execute_sql("ALTER TABLE save ADD COLUMN of_job BOOL NOT NULL DEFAULT 1")
    db.execute_sql("ALTER TABLE save ADD KEY save_of_job (job_id, of_job, id)")
    db.execute_sql("ALTER TABLE link ADD UNIQUE KEY link_bound (job_id, kind, `row`)")


def down(migrator, db):
    db.execute_sql("ALTER TABLE link DROP KEY link_bound")
    db.execute_sql("ALTER TABLE save DROP KEY save_of_job, DROP COLUMN of_job")
    db.execute_sql("ALTER TABLE circuit DROP COLUMN held")
    db.execute_sql("ALTER TABLE job DROP COLUMN held")
