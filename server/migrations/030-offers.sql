-- Rules that somebody has been asked to look after, until they say yes or no.
CREATE TABLE rule_offers (
  rule_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL PRIMARY KEY,
  to_person VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  by_person VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  at DATETIME(3) NOT NULL
);
