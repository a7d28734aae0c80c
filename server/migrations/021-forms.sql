-- Forms behind a link, by which people without an account add to a list.
CREATE TABLE forms (
  id CHAR(26) CHARACTER SET ascii COLLATE ascii_bin NOT NULL PRIMARY KEY,
  -- Whoever has it may send the form.
  token CHAR(32) CHARACTER SET ascii COLLATE ascii_bin NOT NULL UNIQUE,
  source_id VARCHAR(120) COLLATE utf8mb4_bin NOT NULL,
  title VARCHAR(120) NOT NULL,
  about VARCHAR(1000) NOT NULL,
  thanks VARCHAR(1000) NOT NULL,
  -- What is asked, in its order, and what of it has to be filled in.
  fields JSON NOT NULL,
  -- So many are taken on one day.
  most INT NOT NULL,
  is_open TINYINT(1) NOT NULL,
  -- In whose language and zone it is shown, and read.
  locale VARCHAR(20) NOT NULL,
  zone VARCHAR(64) NOT NULL,
  -- How many came on the last day on which any did, and in all.
  day DATE NULL,
  on_day INT NOT NULL DEFAULT 0,
  sent INT NOT NULL DEFAULT 0,
  KEY of_source (source_id)
);
