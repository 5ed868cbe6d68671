"""Who has a circuit open: each page says so while it is looked at, and is forgotten a minute after."""


def up(migrator, db):
    db.execute_sql(
        "CREATE TABLE presence (id BIGINT AUTO_INCREMENT PRIMARY KEY, circuit_id INT NOT NULL, "
        "page VARCHAR(40) NOT NULL, user_id INT NOT NULL, at DATETIME NOT NULL, "
        "FOREIGN KEY (circuit_id) REFERENCES circuit (id), FOREIGN KEY (user_id) REFERENCES user (id), "
        "UNIQUE KEY presence_page (circuit_id, page))"
    )


def down(migrator, db):
    db.execute_sql("DROP TABLE presence")
