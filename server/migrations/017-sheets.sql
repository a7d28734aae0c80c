-- Table documents whose rows are watched: each is a source of its own, whose items are the rows.
CREATE TABLE sheets (
  source_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL PRIMARY KEY,
  item_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  -- Which sheet of a workbook; the first where none is named.
  sheet VARCHAR(200) NULL,
  key_column VARCHAR(1000) NOT NULL,
  -- Which column is which field, by its name.
  columns JSON NOT NULL,
  locale VARCHAR(20) NOT NULL,
  -- The version of the document that the rows are of, and what of it could not be taken.
  number INT NOT NULL,
  faults JSON NOT NULL,
  is_watching TINYINT(1) NOT NULL DEFAULT 1,
  UNIQUE KEY of_item (item_id)
);
