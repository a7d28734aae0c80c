-- Where deciding stands: what is decided next bears a later place. Of one instant rules' acts come first (0), then changes by seq (1), what people did (2), timers (3).
ALTER TABLE world_version ADD COLUMN decided_at DATETIME(3) NOT NULL DEFAULT '1970-01-01 00:00:00.000', ADD COLUMN decided_rank TINYINT NOT NULL DEFAULT 0, ADD COLUMN decided_seq BIGINT NOT NULL DEFAULT 0;

-- When a change was made, where it is decided as of a later instant: another that bears a later one had been decided before this one was committed.
ALTER TABLE changes ADD COLUMN made_at DATETIME(3) NULL;

-- What people did, as it was decided among the changes: the log's other half.
CREATE TABLE decided_acts (
  id BIGINT NOT NULL AUTO_INCREMENT PRIMARY KEY,
  at DATETIME(3) NOT NULL,
  act JSON NOT NULL,
  KEY by_time (at)
);
