-- Doors by which other programs hand changes in: each of one source, with a key of its own.
CREATE TABLE doors (
  id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL PRIMARY KEY,
  source_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  name VARCHAR(120) NOT NULL,
  -- SHA-256 of the key, which is told once.
  key_hash CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  owner_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  mappings JSON NOT NULL,
  is_open TINYINT(1) NOT NULL DEFAULT 1,
  last_at DATETIME(3) NULL,
  taken BIGINT NOT NULL DEFAULT 0,
  refused BIGINT NOT NULL DEFAULT 0,
  KEY of_source (source_id)
);

-- What lets a program of somebody's own ask in their name.
CREATE TABLE personal_tokens (
  id CHAR(26) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY,
  person_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  name VARCHAR(120) NOT NULL,
  token_hash CHAR(64) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  scope ENUM('read', 'write') NOT NULL,
  made_at DATETIME(3) NOT NULL,
  expires_at DATETIME(3) NOT NULL,
  used_at DATETIME(3) NULL,
  UNIQUE KEY by_hash (token_hash),
  KEY of_person (person_id)
);
