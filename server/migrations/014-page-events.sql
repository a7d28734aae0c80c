-- What open pages are told, for the servers that did not do it; each server tells its own at once. Rows are of use for seconds.
CREATE TABLE page_events (
  seq BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
  server CHAR(36) CHARACTER SET ascii COLLATE ascii_bin NOT NULL,
  at DATETIME(3) NOT NULL,
  people JSON NULL,
  event JSON NOT NULL,
  KEY by_time (at)
);
