-- Dated lists that calendar programs ask for again and again, each by an address of somebody's own.
CREATE TABLE calendar_feeds (
  id CHAR(26) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY,
  -- Whoever has it reads what that person may.
  token CHAR(48) CHARACTER SET ascii COLLATE ascii_bin NOT NULL UNIQUE,
  person_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  source_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  field_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  -- What of the source is asked for, as its page has it.
  asked JSON NOT NULL,
  created_at DATETIME(3) NOT NULL,
  KEY of_person (person_id)
);
