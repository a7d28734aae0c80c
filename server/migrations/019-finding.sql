-- What items say, to be found by words: their titles, the texts in their fields, and what documents hold.
CREATE TABLE item_texts (
  item_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL PRIMARY KEY,
  -- The version of the item that it is of.
  version INT NOT NULL,
  body MEDIUMTEXT NOT NULL,
  FULLTEXT KEY words (body)
);
ALTER TABLE items ADD KEY versions (id, version);
