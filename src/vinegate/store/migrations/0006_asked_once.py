"""What a program asked with a key of its own, and what it was answered: asked again it is answered the same."""


def up(migrator, db):
    db.execute_sql(
        "CREATE TABLE asked (id BIGINT AUTO_INCREMENT PRIMARY KEY, token_id INT NOT NULL, word VARCHAR(80) NOT NULL, "
        "digest CHAR(64) NOT NULL, status SMALLINT NOT NULL, body LONGTEXT NOT NULL, at DATETIME NOT NULL, "
        "FOREIGN KEY (token_id) REFERENCES token (id), UNIQUE KEY asked_word (token_id, word))"
    )


def down(migrator, db):
    db.execute_sql("DROP TABLE asked")
