-- How the house speaks: what stands above and below its emails, what rules say that have no words of their own, and in whose names.
CREATE TABLE house_paper (
  id TINYINT NOT NULL PRIMARY KEY,
  letterhead TEXT NULL,
  sign_off TEXT NULL
);
INSERT INTO house_paper (id, letterhead, sign_off) VALUES (1, NULL, NULL);

-- The empty source stands for every source.
CREATE TABLE usual_wordings (
  source_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL DEFAULT '',
  occasion VARCHAR(20) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  wording_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  PRIMARY KEY (source_id, occasion),
  CONSTRAINT usual_is_a_wording FOREIGN KEY (wording_id) REFERENCES wordings (id) ON DELETE CASCADE
);

-- Of a person the name and address are theirs, whatever they are by then.
CREATE TABLE senders (
  id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL PRIMARY KEY,
  kind VARCHAR(10) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  person_id VARCHAR(120) COLLATE utf8mb4_bin NULL,
  name VARCHAR(200) NOT NULL,
  address VARCHAR(254) NOT NULL
);
