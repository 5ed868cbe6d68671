"""Which of its job's facts a circuit's kept summary was planned from."""


def up(migrator, db):
    db.execute_sql("ALTER TABLE circuit ADD COLUMN summary_reads LONGTEXT NULL, MODIFY summary_key VARCHAR(120) NULL")


def down(migrator, db):
    db.execute_sql("ALTER TABLE circuit DROP COLUMN summary_reads")
