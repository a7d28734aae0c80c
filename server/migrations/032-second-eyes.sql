-- Which rules a second pair of eyes has to look at before they are live.
CREATE TABLE house_second_eyes (
  kind VARCHAR(20) COLLATE utf8mb4_bin NOT NULL PRIMARY KEY
);

-- Edits that somebody wants live, at one revision, until a steward has looked at them.
CREATE TABLE rule_asks (
  rule_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL PRIMARY KEY,
  revision INT NOT NULL,
  by_person VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  at DATETIME(3) NOT NULL,
  why TEXT NULL
);

-- Who looked at a version before it was live.
ALTER TABLE rule_versions ADD COLUMN approved_by VARCHAR(120) COLLATE utf8mb4_bin NULL;
