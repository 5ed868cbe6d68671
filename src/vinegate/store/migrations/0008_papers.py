"""PDFs of issued plans, so that each is written once."""


def up(migrator, db):
    db.execute_sql(
        "CREATE TABLE paper (revision_id INT NOT NULL PRIMARY KEY, digest CHAR(64) NOT NULL, body LONGBLOB NOT NULL, "
        "FOREIGN KEY (revision_id) REFERENCES revision (id))"
    )


def down(migrator, db):
    db.execute_sql("DROP TABLE paper")
