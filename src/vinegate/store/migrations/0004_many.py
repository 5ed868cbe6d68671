"""Circuits and jobs that are taken away and brought back; how a job's spreadsheets are read; comments on what was
issued; what ends a person's sessions; failed sign-ins.
"""

_ALTER = (
    "ALTER TABLE circuit ADD COLUMN deleted_at DATETIME NULL",
    "ALTER TABLE job ADD COLUMN deleted_at DATETIME NULL, ADD COLUMN mapping LONGTEXT NULL",
    "ALTER TABLE user ADD COLUMN sessions INT NOT NULL DEFAULT 1",
    "CREATE TABLE comment (id INT AUTO_INCREMENT PRIMARY KEY, revision_id INT NOT NULL, subject VARCHAR(120) NOT NULL, "
    "text VARCHAR(1000) NOT NULL, user_id INT NOT NULL, at DATETIME NOT NULL, answer VARCHAR(1000) NULL, "
    "answered_by_id INT NULL, closed_at DATETIME NULL, FOREIGN KEY (revision_id) REFERENCES revision (id), "
    "FOREIGN KEY (user_id) REFERENCES user (id), FOREIGN KEY (answered_by_id) REFERENCES user (id))",
    "CREATE TABLE token (id INT AUTO_INCREMENT PRIMARY KEY, user_id INT NOT NULL, name VARCHAR(80) NOT NULL, "
    "digest CHAR(64) NOT NULL UNIQUE, writes BOOL NOT NULL, created_at DATETIME NOT NULL, ends_at DATETIME NOT NULL, "
    "revoked_at DATETIME NULL, FOREIGN KEY (user_id) REFERENCES user (id))",
    "CREATE TABLE link (id BIGINT AUTO_INCREMENT PRIMARY KEY, job_id INT NOT NULL, kind VARCHAR(20) NOT NULL, "
    "`row` INT NOT NULL, digest CHAR(64) NOT NULL, FOREIGN KEY (job_id) REFERENCES job (id), "
    "UNIQUE KEY link_row (job_id, kind, `row`))",
    "CREATE TABLE attempt (id BIGINT AUTO_INCREMENT PRIMARY KEY, login VARCHAR(60) NOT NULL, address VARCHAR(60) "
    "NOT NULL, at DATETIME NOT NULL, KEY attempt_login (login, at), KEY attempt_address (address, at))",
)


def up(migrator, db):
    for one in _ALTER:
        db.execute_sql(one)
    for table in ("save", "trail", "review", "link"):
        for event in ("UPDATE", "DELETE"):
            db.execute_sql(
                f"CREATE TRIGGER {table}_keeps_{event.lower()} BEFORE {event} ON {table} FOR EACH ROW "
                f"SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'what was written in {table} never changes'"
            )


def down(migrator, db):
    for table in ("save", "trail", "review", "link"):
        for event in ("update", "delete"):
            db.execute_sql(f"DROP TRIGGER {table}_keeps_{event}")
    for table in ("comment", "attempt", "token", "link"):
        db.execute_sql(f"DROP TABLE {table}")
    db.execute_sql("ALTER TABLE circuit DROP COLUMN deleted_at")
    db.execute_sql("ALTER TABLE job DROP COLUMN deleted_at, DROP COLUMN mapping")
    db.execute_sql("ALTER TABLE user DROP COLUMN sessions")
