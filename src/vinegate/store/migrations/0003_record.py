"""What was measured: entries and photos, that never change, and captures."""

_USER, _CIRCUIT = (
    "user_id INT NOT NULL, FOREIGN KEY (user_id) REFERENCES user (id)",
    ("circuit_id INT NOT NULL, FOREIGN KEY (circuit_id) REFERENCES circuit (id)"),
)
_TABLES = (
    f"CREATE TABLE entry (id INT AUTO_INCREMENT PRIMARY KEY, {_CIRCUIT}, uid VARCHAR(40) NOT NULL, "
    "form VARCHAR(40) NOT NULL, readings LONGTEXT NOT NULL, simulated BOOL NOT NULL, revision INT NOT NULL, "
    f"taken_at DATETIME NOT NULL, {_USER}, received_at DATETIME NOT NULL, "
    "UNIQUE KEY entry_circuit_id_uid (circuit_id, uid), KEY entry_form (circuit_id, form, taken_at))",
    "CREATE TABLE photo (id INT AUTO_INCREMENT PRIMARY KEY, entry_id INT NOT NULL, uid VARCHAR(40) NOT NULL, "
    "jpeg LONGBLOB NOT NULL, FOREIGN KEY (entry_id) REFERENCES entry (id), UNIQUE KEY photo_entry_uid (entry_id, uid))",
    f"CREATE TABLE capture (id INT AUTO_INCREMENT PRIMARY KEY, {_CIRCUIT}, uid VARCHAR(40) NOT NULL, "
    "name VARCHAR(200) NOT NULL, body LONGBLOB NOT NULL, size INT NOT NULL, mapping LONGTEXT NOT NULL, "
    f"simulated BOOL NOT NULL, revision INT NOT NULL, program_version VARCHAR(20) NOT NULL, {_USER}, "
    "received_at DATETIME NOT NULL, UNIQUE KEY capture_circuit_id_uid (circuit_id, uid))",
)


def up(migrator, db):
    for table in _TABLES:
        db.execute_sql(table)
    for table in ("entry", "photo"):
        for event in ("UPDATE", "DELETE"):
            db.execute_sql(
                f"CREATE TRIGGER {table}_keeps_{event.lower()} BEFORE {event} ON {table} FOR EACH ROW "
                "SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = 'what was recorded never changes'"
            )


def down(migrator, db):
    for table in ("photo", "entry", "capture"):
        db.execute_sql(f"DROP TABLE {table}")
