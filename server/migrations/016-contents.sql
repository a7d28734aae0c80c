-- What documents hold, in pieces, kept once however many versions show it. Unused ones are swept away after a day.
CREATE TABLE contents (
  id VARCHAR(160) COLLATE utf8mb4_bin NOT NULL PRIMARY KEY,
  size INT UNSIGNED NOT NULL,
  media_type VARCHAR(120) NOT NULL,
  made_by VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  made_at DATETIME(3) NOT NULL,
  KEY by_age (made_at)
);
CREATE TABLE content_chunks (
  content_id VARCHAR(160) COLLATE utf8mb4_bin NOT NULL,
  seq SMALLINT UNSIGNED NOT NULL,
  bytes MEDIUMBLOB NOT NULL,
  PRIMARY KEY (content_id, seq),
  CONSTRAINT chunk_of_contents FOREIGN KEY (content_id) REFERENCES contents (id) ON DELETE CASCADE
);
INSERT INTO contents (id, size, media_type, made_by, made_at)
  SELECT CONCAT(f.item_id, '/', f.version), LENGTH(f.bytes), f.media_type, i.created_by, i.created_at
  FROM item_files f JOIN items i ON i.id = f.item_id;
INSERT INTO content_chunks (content_id, seq, bytes)
  SELECT CONCAT(item_id, '/', version), 0, bytes FROM item_files;
-- A version of a document: at which version of its item it came, which one of the document it is, and what it holds.
ALTER TABLE item_files
  ADD content_id VARCHAR(160) COLLATE utf8mb4_bin NOT NULL DEFAULT '',
  ADD number INT NOT NULL DEFAULT 1,
  ADD name VARCHAR(400) NOT NULL DEFAULT '',
  ADD made_by VARCHAR(120) COLLATE utf8mb4_bin NOT NULL DEFAULT '',
  ADD made_at DATETIME(3) NOT NULL DEFAULT '2000-01-01',
  DROP bytes,
  DROP media_type;
UPDATE item_files f JOIN items i ON i.id = f.item_id
  SET f.content_id = CONCAT(f.item_id, '/', f.version), f.number = GREATEST(1, COALESCE(JSON_VALUE(i.fields, '$.version'), 1)),
      f.name = i.title, f.made_by = i.created_by, f.made_at = i.created_at;
ALTER TABLE item_files ADD CONSTRAINT shows_contents FOREIGN KEY (content_id) REFERENCES contents (id);
