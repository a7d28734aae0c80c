-- Who took on what an alert told: the engine forgets it once nothing more follows.
CREATE TABLE acknowledgements (
  alert_id CHAR(26) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  person_id VARCHAR(140) COLLATE utf8mb4_bin NOT NULL,
  at DATETIME(3) NOT NULL,
  PRIMARY KEY (alert_id, person_id)
);
